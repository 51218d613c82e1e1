# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module StandIns
    # Takes lanes from RTP L24 packets and plays each at its timestamp. Missing packets are silent; late ones are counted.
    class LanesIn
      # Longest time ahead that a packet may be stamped, in frames.
      AHEAD = 9600

      # @return [Integer] packets that came after their time
      attr_reader :late

      # @param streams [Array<Formats::Sdp::Stream>] in lane order
      def initialize(streams)
        @streams = streams
        @lanes, @first = streams.sum(&:lanes), streams.first&.first
        @rings = streams.map { |stream| "\0".b * (AHEAD * frame_bytes(stream)) }
        @filled = Array.new(streams.size, 0) # times up to which something has come
        @late = 0
        @time = 0
      end

      # @param index [Integer] stream
      # @param arrived [String, Formats::RtpRuns::Run] an RTP packet, or a run of consecutive ones
      def push(index, arrived)
        return push_run(index, arrived) unless arrived.is_a?(String)

        packet = Formats::Rtp.unpack(arrived) or return
        return if packet.payload.empty? || (packet.payload.bytesize % frame_bytes(@streams[index])).nonzero?

        take(index, packet)
      end

      # @param time [Integer] sample counter
      # @return [Numo::Int32] [frames, lanes of all streams], lanes as rows in memory; frozen, and the identical array if the content is the same
      def read(time, frames)
        quiet = @filled.all? { |until_then| until_then <= time }
        @time = time + frames
        return silence(frames) if quiet # most of the time nothing is played

        parts = @streams.each_index.map { |index| @filled[index] > time ? fetch(index, time, frames) : nil }
        @parts, @block = parts, block(parts, frames) unless parts == @parts
        @block
      end

      private

      def block(parts, frames)
        rows = silence(frames).transpose.dup
        @streams.zip(parts) do |stream, bytes|
          at = stream.first - @first
          rows[at...(at + stream.lanes), true] = Audio::Pcm24.from_network(bytes, stream.lanes).transpose if bytes
        end
        rows.transpose.freeze
      end

      # Whole, where none of it is late or too early.
      def push_run(index, run)
        ahead = Formats::Rtp.distance(@time, run.timestamp, Formats::Rtp::TIMESTAMPS)
        fits = !ahead.negative? && ahead + (run.payload.bytesize / frame_bytes(@streams[index])) <= AHEAD
        fits ? take(index, run) : run.packets(frame_bytes(@streams[index])).each { |packet| take(index, packet) }
      end

      # @param packet [Formats::Rtp::Packet, Formats::RtpRuns::Run]
      def take(index, packet)
        ahead = Formats::Rtp.distance(@time, packet.timestamp, Formats::Rtp::TIMESTAMPS)
        return @late += 1 if ahead.negative?

        frames = packet.payload.bytesize / frame_bytes(@streams[index])
        return if ahead + frames > AHEAD

        store(index, @time + ahead, packet.payload)
        @filled[index] = [@filled[index], @time + ahead + frames].max
      end

      # Numo copies an array in a quarter of the time that it takes to fill one.
      def silence(frames) = @silence&.shape&.first == frames ? @silence : @silence = Numo::Int32.zeros(@lanes, frames).freeze.transpose.freeze

      def frame_bytes(stream) = stream.lanes * Audio::Pcm24::BYTES

      def store(index, time, payload)
        ring = @rings[index]
        at = (time * frame_bytes(@streams[index])) % ring.bytesize
        first = [payload.bytesize, ring.bytesize - at].min
        ring[at, first] = payload.byteslice(0, first)
        ring[0, payload.bytesize - first] = payload.byteslice(first..) if first < payload.bytesize
      end

      # Reads and leaves silence behind.
      def fetch(index, time, frames)
        ring = @rings[index]
        size = frames * frame_bytes(@streams[index])
        at = (time * frame_bytes(@streams[index])) % ring.bytesize
        return take_out(ring, at, size) if at + size <= ring.bytesize

        first = ring.bytesize - at
        take_out(ring, at, first) << take_out(ring, 0, size - first)
      end

      # Unlike byteslice, unpack shares no memory, so that the ring is not copied whole at its next change.
      def take_out(ring, at, size)
        bytes = ring.unpack1("a#{size}", offset: at)
        ring[at, size] = size == @nothing&.bytesize ? @nothing : @nothing = ("\0".b * size).freeze
        bytes
      end
    end
  end
end
