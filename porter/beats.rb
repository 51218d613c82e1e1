# frozen_string_literal: true

require "tmpdir"

module Loomshuttle
  module Porter
    # The tempo of a song, detected by a beat tracker (aubio): a straight line through its beats, so that a few missed beats do not matter.
    module Beats
      # It has so long (seconds).
      SECONDS = 300
      # Fewer beats make no tempo.
      LEAST = 8

      # bpm: quarter notes per minute; first: sample of the first beat; spread: how far beats lie off, in ms
      Found = Value.define(:bpm, :first, :spread)

      class << self
        # @param path [String]   @param rate [Integer] for positions in samples
        # @return [Found, nil]
        def of(path, rate)
          times = Dir.mktmpdir { |folder| heard(path, File.join(folder, "mono.wav")) }
          times.size < LEAST ? nil : line(times, rate)
        rescue SystemCallError
          nil # nobody has installed it
        end

        # @param times [Array<Float>] beats in seconds
        # @return [Found, nil]
        def line(times, rate)
          step = median(times.each_cons(2).map { |one, other| other - one })
          return unless step&.positive?

          places = numbered(times, step)
          slope, start = fit(places, times)
          off = places.zip(times).map { |place, time| (time - start - (slope * place)).abs }
          bpm = 60 / slope
          return unless Timing::TempoMap::BPM.cover?(bpm)

          Found.new(bpm: nearly_whole(bpm), first: ((start % slope) * rate).round, spread: (median(off) * 1000).round(1))
        end

        private

        # The tracker is tuned for 44.1 kHz, and leaves beats out at others.
        def heard(path, mono)
          _, well = Runtime::Programs.run("ffmpeg", "-v", "error", "-nostdin", *Formats::SoundKinds::OPTIONS, "-i", path, "-ac", "1", "-ar", "44100", "-c:a", "pcm_s16le", mono,
                                          seconds: SECONDS)
          text, well = Runtime::Programs.run("aubiotrack", "-i", mono, seconds: SECONDS) if well
          well ? text.lines.filter_map { |line| Float(line.strip, exception: false) } : []
        end

        # Which beat each of them is, the next one counted from the one before it.
        def numbered(times, step)
          place = 0
          [0] + times.each_cons(2).map { |one, other| place += [((other - one) / step).round, 1].max }
        end

        # Least squares.
        def fit(places, times)
          mean_place, mean_time = places.sum.fdiv(places.size), times.sum / times.size
          slope = places.zip(times).sum { |place, time| (place - mean_place) * (time - mean_time) } / places.sum { |place| (place - mean_place)**2 }
          [slope, mean_time - (slope * mean_place)]
        end

        # Music that is played to a click has a tempo in whole or half figures (common practice, no published source).
        def nearly_whole(bpm)
          half = (bpm * 2).round / 2.0
          (bpm - half).abs < 0.15 ? half : bpm.round(2)
        end

        def median(list) = list.sort[list.size / 2]
      end
    end
  end
end
