# frozen_string_literal: true

module Loomshuttle
  module Formats
    # Reads tempos, time signatures and markers of a Standard MIDI File of format 0 or 1 (MIDI Manufacturers Association, Standard MIDI
    # Files 1.0); notes and the rest are stepped over.
    class MidiReader
      # Bytes of a file, and events that are kept of it.
      LARGEST, MOST = 8 << 20, 20_000
      TEMPO, METER, MARKER, CUE = 0x51, 0x58, 0x06, 0x07

      # @return [Array<Array(Rational, Rational)>] quarter notes and quarter notes per minute
      attr_reader :tempos
      # @return [Array<Array(Rational, Integer, Integer)>] quarter notes, beats and unit
      attr_reader :meters
      # @return [Array<Array(Rational, String)>] quarter notes and name
      attr_reader :markers
      # @return [Rational] quarter notes until the last event
      attr_reader :length

      # @param bytes [String]
      # @raise [Invalid] if it is not a MIDI file, or uses SMPTE time division
      def initialize(bytes)
        wrong("is larger than #{LARGEST >> 20} MiB") if bytes.bytesize > LARGEST
        mark, size, _, tracks, @division = bytes.unpack("a4Nnnn")
        wrong("is not a Standard MIDI File") unless mark == "MThd" && @division && size >= 6
        wrong("counts in frames, not in beats") if @division.zero? || @division >= 0x8000
        @tempos, @meters, @markers, @length = [], [], [], 0r
        at = 8 + size
        [tracks, 256].min.times { at = track(bytes, at) }
        [@tempos, @meters, @markers].each { |list| list.sort_by!.with_index { |one, nth| [one.first, nth] } }
      end

      private

      def track(bytes, at)
        mark, size = bytes.unpack("@#{[at, bytes.bytesize].min}a4N")
        return bytes.bytesize unless size

        events(bytes.byteslice(at + 8, size).to_s) if mark == "MTrk"
        at + 8 + size
      end

      def events(data)
        @data, @at, tick, status = data, 0, 0, nil
        while @at < data.bytesize
          tick += variable
          status = byte if @data.getbyte(@at).to_i >= 0x80
          wrong("is damaged: an event has no kind") unless status
          event(status, Rational(tick, @division))
        end
        @length = [@length, Rational(tick, @division)].max
      end

      def event(status, place)
        case status
        when 0xFF then meta(byte, take(variable), place)
        when 0xF0, 0xF7 then take(variable)
        when 0xC0..0xDF then take(1)
        else take(2)
        end
      end

      def meta(kind, data, place)
        case kind
        when TEMPO then keep(@tempos, [place, Rational(60_000_000, ["\0", data].join.unpack1("N"))]) if data.bytesize == 3 && data != "\0\0\0".b
        when METER then keep(@meters, [place, data.getbyte(0), 1 << data.getbyte(1).clamp(0, 8)]) if data.bytesize >= 2
        when MARKER, CUE then keep(@markers, [place, Text.readable(data, most: 80).strip])
        end
      end

      def keep(list, one) = list.size < MOST ? list << one : nil
      def byte = take(1).getbyte(0)

      def take(count)
        wrong("ends in the middle of an event") if @at + count > @data.bytesize
        @data.byteslice(@at, count).tap { @at += count }
      end

      # Seven bits a byte, four bytes at most.
      def variable
        number = 0
        4.times do
          one = byte
          number = (number << 7) | (one & 0x7F)
          return number if one < 0x80
        end
        wrong("has a number that is too long")
      end

      def wrong(why) = raise(Invalid.new("The MIDI file #{why}.", where: "midi"))
    end
  end
end
