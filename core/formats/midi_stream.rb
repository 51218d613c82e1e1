# frozen_string_literal: true

module Loomshuttle
  module Formats
    # Messages on a MIDI cable, byte by byte (MIDI 1.0 Detailed Specification): notes, controllers and programs. Others are skipped; running status
    # is understood.
    class MidiStream
      # kind: "note", "control" or "program"; number: of the note, controller or program; channel from 1; down: pressed or let go
      Message = Value.define(:kind, :number, :channel, :down) do
        # @return [String] identifies the switch, pressed or released: "control 64 ch 1"
        def name = "#{kind} #{number} ch #{channel}"
      end
      # Bytes that follow a status.
      FOLLOW = { 0x8 => 2, 0x9 => 2, 0xa => 2, 0xb => 2, 0xc => 1, 0xd => 1, 0xe => 2 }.freeze
      # A controller is on from here (MIDI 1.0, switches such as 64 to 69).
      ON = 64
      REAL_TIME, EXCLUSIVE = 0xf8, 0xf0

      def initialize
        @status, @data = nil, []
      end

      # @param bytes [String]
      # @return [Array<Message>]
      def push(bytes) = bytes.each_byte.filter_map { |byte| take(byte) }

      private

      def take(byte)
        return if byte >= REAL_TIME # may come anywhere, and changes nothing
        return begin_with(byte) if byte >= 0x80
        return unless @status

        @data << byte
        return if @data.size < FOLLOW.fetch(@status >> 4)

        first, second = @data
        @data = []
        message(first, second)
      end

      def begin_with(byte)
        @status, @data = byte < EXCLUSIVE ? byte : nil, []
        nil
      end

      def message(first, second)
        channel = (@status & 0x0f) + 1
        case @status >> 4
        when 0x8 then Message.new(kind: "note", number: first, channel: channel, down: false)
        when 0x9 then Message.new(kind: "note", number: first, channel: channel, down: second.positive?)
        when 0xb then Message.new(kind: "control", number: first, channel: channel, down: second >= ON)
        when 0xc then Message.new(kind: "program", number: first, channel: channel, down: true)
        end
      end
    end
  end
end
