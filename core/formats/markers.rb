# frozen_string_literal: true

require "csv"

module Loomshuttle
  module Formats
    # Markers and sections of a take as other programs read them. A marker: at (frames from the start), frames (its length as a
    # section, 0 for a point), name.
    module Markers
      Marker = Value.define(:at, :frames, :name)
      # Ticks a quarter note at 120 a minute: one tick is a frame of 48 kHz.
      DIVISION = 24_000
      BPM = 120

      # @param list [Array<Marker>]
      # @return [String] "cue " and "LIST adtl" chunks of a WAV file (Microsoft/IBM, Multimedia Programming Interface and Data
      #   Specifications 1.0, 1991); empty without markers. Positions beyond 32 bits do not fit there and are left out
      def self.chunks(list)
        list = list.select { |marker| marker.at < Wav::ELSEWHERE }
        return "".b if list.empty?

        points = list.each.with_index(1).map { |marker, id| [id, marker.at, "data", 0, 0, marker.at].pack("VVa4VVV") }
        Wav::Head.chunk("cue ", [list.size].pack("V") << points.join) << Wav::Head.chunk("LIST", "adtl".b << labels(list))
      end

      # @param rate [Integer] samples a second
      # @return [String] a Standard MIDI File, format 0: 120 quarter notes per minute, a marker event (FF 06) each, and one more where a
      #   section ends (MIDI Manufacturers Association, Standard MIDI Files 1.0)
      def self.midi(list, rate)
        events = list.flat_map { |one| [[one.at, one.name], *([[one.at + one.frames, "end of #{one.name}"]] if one.frames.positive?)] }.sort_by.with_index { |(at, _), n| [at, n] }
        file = MidiFile.new(DIVISION).tempo(0, BPM).meta(0, 0x03, "Markers")
        events.each { |at, name| file.meta((at * 48_000.0 / rate).round, 0x06, name) }
        file.to_s
      end

      # @return [String] CSV (RFC 4180): number, name, start and length as hh:mm:ss.mmm and in samples
      def self.csv(list, rate)
        CSV.generate(row_sep: "\r\n") do |csv|
          csv << ["number", "name", "start", "start in samples", "length", "length in samples"]
          list.each.with_index(1) do |one, n|
            csv << [n, *ListText.plain([one.name]), time(one.at, rate), one.at, one.frames.zero? ? nil : time(one.frames, rate), one.frames.zero? ? nil : one.frames]
          end
        end
      end

      class << self
        private

        # A label each; what has a length has a labelled text as well, which tells it. Those come last: some readers stop there.
        def labels(list)
          named = list.each.with_index(1).map { |marker, id| [marker, id, "#{marker.name.encode('UTF-8')}\0".b] }
          named.map { |_, id, name| Wav::Head.chunk("labl", [id].pack("V") << name) }.join <<
            named.reject { |marker, _, _|
              marker.frames.zero?
            }.map { |marker, id, name| Wav::Head.chunk("ltxt", [id, marker.frames, "rgn ", 0, 0, 0, 0].pack("VVa4vvvv") << name) }.join
        end

        def time(frames, rate)
          ms = (frames * 1000.0 / rate).round
          format("%02d:%02d:%02d.%03d", ms / 3_600_000, ms / 60_000 % 60, ms / 1000 % 60, ms % 1000)
        end
      end
    end
  end
end
