# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # Sends a take to the card's returns, paced by the clock of what arrives: for every millisecond that comes in, one
    # packet a stream goes out, stamped one buffer later. `fill` reads ahead and may run on a thread of its own; `tick`
    # never waits for it.
    class Player
      # Frames of a packet, at any rate.
      PACKET = 48
      # Read ahead this far (seconds).
      AHEAD = 1.0
      # Read so much at once: small, since Ruby runs one thread at a time and the clock must not wait for this one.
      READ = 20

      # @return [Integer] packets that had to be silent because reading was behind
      attr_reader :underruns

      # @param reader [TakeReader]
      # @param streams [Array<Formats::Sdp::Stream>] of the card's returns
      # @param buffer [Integer] samples between the arrival of input and the matching output
      # @param source [Integer] SSRC of the first stream
      # @param whole [Boolean] whether the card needs all streams; otherwise streams that the take does not use are left to others
      # @param send [Proc] takes stream index and RTP bytes
      def initialize(reader, streams:, buffer:, source:, whole: false, &send)
        @reader, @streams, @buffer, @source, @send = reader, streams, buffer, source, send
        @rate = streams.first.rate
        @idle = whole ? [] : idle(reader.lanes_played)
        @ahead = (AHEAD * @rate / PACKET).round
        @ready = Queue.new
        @reading = Mutex.new
        @sequence = 0
        @underruns = 0
        @position = reader.from
        @silence = streams.map { |stream| "\0".b * (PACKET * stream.lanes * Audio::Pcm24::BYTES) }
      end

      # Reads ahead until a second is ready.
      # @return [Boolean] whether anything was read
      def fill
        return false unless hungry?

        @reading.synchronize { read_some } while hungry?
        true
      end

      # @param newest [Integer] position up to which samples have arrived
      # @param timeline [Timeline]
      def tick(newest, timeline)
        @next = newest - (newest % PACKET) if @next.nil? || newest - @next > @rate || newest < @next - @rate
        while @next + PACKET <= newest
          @started ||= @next
          send_packets(timeline.timestamp(@next + @buffer))
          @next += PACKET
        end
      end

      # @return [Integer, nil] position on the time line at which the first packet left; nil before
      attr_reader :started

      # @return [Boolean] whether the last packet was sent
      def done? = @reader.done? && @ready.empty?

      # @return [Integer] frame of the take that goes out now
      attr_reader :position

      # @return [Integer] samples clipped at full scale (TakeReader#limited)
      def limited = @reader.respond_to?(:limited) ? @reader.limited : 0

      def reader_range = [@reader.from, @reader.to, @reader.loop]

      # Ends it, after any read still running on another thread.
      def close
        @reading.synchronize do
          @closed = true
          @reader.close
        end
      end

      private

      # @param lanes [Array<Integer>] that something plays on
      # @return [Array<Integer>] indices of streams that have none of them
      def idle(lanes)
        @streams.each_index.reject { |index| @streams[index].then { |stream| lanes.any? { |lane| lane.between?(stream.first, stream.first + stream.lanes - 1) } } }
      end

      def hungry? = !@closed && @ready.size < @ahead && !@reader.done?

      def read_some
        return if @closed

        start = @reader.position
        block = @reader.read(READ * PACKET)
        payloads = @streams.map do |stream|
          Thread.pass
          Audio::Pcm24.to_network(block[true, (stream.first - 1)...(stream.first - 1 + stream.lanes)].dup)
        end
        READ.times do |nth|
          @ready << [@reader.place(start + (nth * PACKET)),
                     payloads.each_with_index.map { |bytes, index| bytes.byteslice(nth * @silence[index].bytesize, @silence[index].bytesize) }]
        end
      end

      def send_packets(timestamp)
        @position, payloads = @ready.empty? ? [@position, starved] : @ready.pop
        payloads.each_with_index do |payload, index|
          next if @idle.include?(index)

          @send.call(index, Formats::Rtp.pack(sequence: @sequence, timestamp: timestamp, source: @source + index, payload: payload))
        end
        @sequence = (@sequence + 1) % Formats::Rtp::SEQUENCES
      end

      def starved
        @underruns += 1 unless @reader.done?
        @silence
      end
    end
  end
end
