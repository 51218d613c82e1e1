# frozen_string_literal: true

module Loomshuttle
  module Songs
    # Where a song can be left: the next beat or bar.
    module Grid
      class << self
        # @param song [Song]   @param sample [Integer]   @param unit ["beat", "bar"]
        # @return [Integer] sample of the first beat or bar at or after the given one
        def next(song, sample, unit)
          late = sample - song.start
          return song.start unless late.positive?

          bar, beat = song.map.place(song.map.quarter(late))
          beats_from(song, bar.floor, unit == "bar" ? 1 : beat.floor, unit).find { |at| at >= sample }
        end

        private

        def beats_from(song, bar, beat, unit)
          Enumerator.new do |found|
            (bar..).each do |number|
              meter, start = song.map.meter(number), song.map.bar(number)
              last = unit == "bar" ? 1 : meter.beats
              ((number == bar ? beat : 1)..last).each { |nth| found << (song.start + song.map.sample(start + ((nth - 1) * meter.beat))) }
            end
          end.lazy
        end
      end
    end
  end
end
