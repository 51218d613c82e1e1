# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # Sends a take to the card's returns, paced by the clock of what arrives: for every millisecond that comes in, one
    # packet a stream goes out, stamped one buffer later. `fill` reads ahead and may run on a thread of its own; `tick`
    # never waits for it.
    class Player
      PACKET = 48
      # Read ahead this far, in packets (one second).
      AHEAD = 1000
      READ = 100

      # @return [Integer] packets that had to be silent because reading was behind
      attr_reader :underruns, :played

      # @param reader [TakeReader]
      # @param streams [Array<Formats::Sdp::Stream>] of the card's returns
      # @param buffer [Integer] samples from arrival to sounding
      # @param source [Integer] SSRC of the first stream
      # @param send [Proc] takes stream index and RTP bytes
      def initialize(reader, streams:, buffer:, source:, &send)
        @reader, @streams, @buffer, @source, @send = reader, streams, buffer, source, send
        @ready = Queue.new
        @sequence = 0
        @underruns = 0
        @played = 0
        @silence = streams.map { |stream| "\0".b * (PACKET * stream.lanes * Audio::Pcm24::BYTES) }
      end

      # Reads ahead until a second is ready.
      # @return [Boolean] whether anything was read
      def fill
        return false if @ready.size >= AHEAD || @reader.done?

        read_some while @ready.size < AHEAD && !@reader.done?
        true
      end

      # @param newest [Integer] position up to which samples have arrived
      # @param timeline [Timeline]
      def tick(newest, timeline)
        @next = newest - (newest % PACKET) if @next.nil? || newest - @next > 48_000 || newest < @next - 48_000
        while @next + PACKET <= newest
          send_packets(timeline.timestamp(@next + @buffer))
          @next += PACKET
        end
      end

      # @return [Boolean] whether the last packet has been sent
      def done? = @reader.done? && @ready.empty?

      # @return [Integer] frame of the take that goes out now
      def position
        ahead = @ready.size * PACKET
        at = @reader.position - ahead
        @reader.loop && at < @reader.from && @played.positive? ? at + (@reader.to - @reader.from) : [at, @reader.from].max
      end

      def reader_range = [@reader.from, @reader.to, @reader.loop]

      def close = @reader.close

      private

      def read_some
        block = @reader.read(READ * PACKET)
        payloads = @streams.map do |stream|
          Audio::Pcm24.to_network(block[true, (stream.first - 1)...(stream.first - 1 + stream.lanes)].dup)
        end
        READ.times do |nth|
          @ready << payloads.each_with_index.map { |bytes, index| bytes.byteslice(nth * @silence[index].bytesize, @silence[index].bytesize) }
        end
      end

      def send_packets(timestamp)
        payloads = @ready.empty? ? starved : @ready.pop
        payloads.each_with_index do |payload, index|
          @send.call(index, Formats::Rtp.pack(sequence: @sequence, timestamp: timestamp, source: @source + index, payload: payload))
        end
        @sequence = (@sequence + 1) % Formats::Rtp::SEQUENCES
        @played += PACKET
      end

      def starved
        @underruns += 1 unless @reader.done?
        @silence
      end
    end
  end
end
