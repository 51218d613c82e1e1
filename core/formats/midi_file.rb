# frozen_string_literal: true

module Loomshuttle
  module Formats
    # A Standard MIDI File of format 0 (MIDI Manufacturers Association, Standard MIDI Files 1.0): events at ticks, in any order.
    class MidiFile
      # @param division [Integer] ticks per quarter note
      def initialize(division)
        @division = division
        @events = []
      end

      # @param tick [Integer]   @param kind [Integer] of the meta event   @param data [String]
      def meta(tick, kind, data) = add(tick, [0xFF, kind].pack("CC") << variable(data.bytesize) << data.b)

      # @param bpm [Numeric] quarter notes per minute
      def tempo(tick, bpm) = meta(tick, 0x51, [(60_000_000 / bpm).round].pack("N").byteslice(1, 3))

      # @param beats [Integer]   @param unit [Integer] 4: quarters, 8: eighths, a power of 2
      def meter(tick, beats, unit) = meta(tick, 0x58, [beats, unit.bit_length - 1, 24, 8].pack("C4"))

      # @param channel [Integer] from 1   @param ticks [Integer] length of the note
      def note(tick, channel, key, velocity, ticks)
        add(tick, [0x90 | (channel - 1), key, velocity].pack("C3"))
        add(tick + ticks, [0x80 | (channel - 1), key, 0].pack("C3"))
      end

      # @return [String]
      def to_s
        before = 0
        body = @events.sort_by.with_index { |(tick, _), at| [tick, at] }.map do |tick, bytes|
          (variable(tick - before) << bytes).tap { before = tick }
        end.join << variable(0) << [0xFF, 0x2F, 0].pack("C3")
        ["MThd", 6, 0, 1, @division].pack("a4Nnnn") << ["MTrk", body.bytesize].pack("a4N") << body
      end

      private

      def add(tick, bytes)
        @events << [tick, bytes]
        self
      end

      # Seven bits a byte, the highest bit set in all but the last.
      def variable(number)
        bytes = [number & 0x7F]
        bytes.unshift((number & 0x7F) | 0x80) while (number >>= 7).positive?
        bytes.pack("C*")
      end
    end
  end
end
