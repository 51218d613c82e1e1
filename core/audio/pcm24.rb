# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module Audio
    # 24-bit samples as bytes, integers and floats. A block is [frames, lanes]; integers are Int32 in -2^23..2^23-1,
    # floats DFloat with full scale 1.0. Integer to float and back gives the same integer.
    module Pcm24
      FULL_SCALE = 8_388_608
      BYTES = 3

      # Unpacks with another implementation (Runtime::Native) from now on; nil goes back to the one here.
      # @param way [#integers, #planes, nil] both take (bytes, lanes); `integers` returns 32-bit integers lane after lane, `planes` the
      #   same as little-endian 24-bit samples
      def self.unpack_with(way)
        @unpack = way
      end

      # @param bytes [String] interleaved big-endian samples, as RTP L24 carries them (RFC 3190)
      # @return [Numo::Int32] [frames, lanes]
      def self.from_network(bytes, lanes)
        return integers(bytes, lanes, [0, 1, 2]) if @unpack.nil? || bytes.empty?

        Numo::Int32.from_binary(@unpack.integers(bytes, lanes), [lanes, bytes.bytesize / (lanes * BYTES)]).transpose
      end

      # @param bytes [String] as from_network
      # @return [Array<String>] the samples of each lane as WAV holds them
      def self.lanes_to_wav(bytes, lanes)
        planes = @unpack && !bytes.empty? ? @unpack.planes(bytes, lanes) : to_wav(from_network(bytes, lanes).transpose.dup)
        size = planes.bytesize / lanes
        Array.new(lanes) { |lane| planes.byteslice(lane * size, size) }
      end

      # @param bytes [String] little-endian samples of one lane or interleaved ones, as WAV holds them
      # @return [Numo::Int32] [frames, lanes]
      def self.from_wav(bytes, lanes = 1) = integers(bytes, lanes, [2, 1, 0])

      # @param block [Numo::Int32] [frames, lanes]
      # @return [String] interleaved, big-endian
      def self.to_network(block) = octets(block, [2, 1, 0])

      # Octet by octet along the lanes, which Numo copies several times faster than samples across them.
      # @param rows [Numo::Int32] [lanes, frames]; a lane is a row   @param lanes [Integer] of a stream
      # @return [Array<String>] as to_network, for each stream
      def self.rows_to_network(rows, lanes)
        streams, frames = rows.shape[0] / lanes, rows.shape[1]
        octets = Numo::UInt8.from_binary(rows.to_binary, [streams, lanes, frames, 4])
        out = Numo::UInt8.new(streams, frames, lanes, BYTES).allocate
        by_lane = out.transpose(0, 2, 1, 3)
        BYTES.times { |at| by_lane[true, true, true, at] = octets[true, true, true, BYTES - 1 - at] }
        bytes, size = out.to_binary, frames * lanes * BYTES
        Array.new(streams) { |stream| bytes.byteslice(stream * size, size) }
      end

      # @return [String] interleaved, little-endian
      def self.to_wav(block) = octets(block, [0, 1, 2])

      # Bytes for a sound card.
      # @param parts [Array<String>] interleaved big-endian samples, one string per stream   @param lanes [Array<Integer>] lanes of each stream
      # @param bytes [3, 4] bytes per sample on the card; of four, the lowest is zero
      # @return [String] interleaved little-endian samples of all lanes
      def self.to_card(parts, lanes, bytes)
        columns = parts.zip(lanes).map { |part, count| Numo::UInt8.from_binary(part, [part.bytesize / (count * BYTES), count, BYTES])[true, true, [2, 1, 0]] }
        all = columns.reduce { |left, right| left.concatenate(right, axis: 1) }
        return all.dup.to_binary if bytes == BYTES

        wide = Numo::UInt8.zeros(*all.shape.first(2), bytes)
        wide[true, true, (bytes - BYTES)..] = all
        wide.to_binary
      end

      # @return [Numo::DFloat] full scale 1.0
      def self.to_float(block) = floats(block) / FULL_SCALE

      # @return [Numo::DFloat] the same numbers as floats; storing into a new array takes Numo less than half as long as a cast
      def self.floats(block) = Numo::DFloat.new(*block.shape).allocate.tap { |floats| floats.store(block) }

      # @return [String] interleaved little-endian 32-bit floats; exact for every 24-bit value
      def self.to_float32(block) = (Numo::SFloat.cast(block) / FULL_SCALE).to_binary

      # Rounds to the nearest integer, halves to the even one, and clips at full scale.
      # @return [Numo::Int32]
      def self.from_float(block) = Numo::Int32.cast(round(block * FULL_SCALE))

      # Added to a float it leaves no room for a fraction, so that the processor's own addition rounds, halves to the even number; taken off again,
      # it leaves whole numbers. A fifth of the time of Numo's rint.
      ROUND = 1.5 * (1 << 52)

      # Like from_float, for numbers whose full scale is FULL_SCALE.
      # @param scaled [Numo::DFloat] overwritten with the result
      # @return [Numo::DFloat] whole numbers, the same array
      def self.round(scaled)
        (scaled.inplace.clip(-FULL_SCALE, FULL_SCALE - 1) + ROUND) - ROUND
      end

      # Clips only where needed, because clipping costs as much as everything else together.
      # @param block [Numo::SFloat] full scale 1.0
      # @yieldparam where [Numo::Bit] true for each sample beyond full scale; yielded only if there are any
      # @return [Numo::Int32]
      def self.limit(block)
        scaled = block * FULL_SCALE
        scaled.inplace.rint
        low, high = scaled.out_of_place!.minmax
        if high >= FULL_SCALE || low < -FULL_SCALE
          yield (scaled >= FULL_SCALE) | (scaled < -FULL_SCALE) if block_given?
          scaled = scaled.clip(-FULL_SCALE, FULL_SCALE - 1)
        end
        Numo::Int32.cast(scaled)
      end

      # Whole planes of one octet each are copied, since Numo is slow on rows of three; what is filled anyway is not cleared first. Both
      # assume a little-endian machine, as Numo's own binary form does.
      class << self
        private

        # The sample's three octets fill the upper part of 32 bits; the shift down extends the sign and drops the fourth.
        def integers(bytes, lanes, order)
          octets = Numo::UInt8.from_binary(bytes, [bytes.bytesize / BYTES, BYTES])
          wide = Numo::UInt8.new(octets.shape[0], 4).allocate
          order.each_with_index { |from, at| wide[true, 3 - at] = octets[true, from] }
          samples = Numo::Int32.from_binary(wide.to_binary, [octets.shape[0] / lanes, lanes])
          samples.inplace >> 8
          samples.out_of_place!
        end

        def octets(block, order)
          wide = Numo::UInt8.from_binary(block.to_binary, [block.size, 4])
          out = Numo::UInt8.new(block.size, BYTES).allocate
          order.each_with_index { |from, at| out[true, at] = wide[true, from] }
          out.to_binary
        end
      end
    end
  end
end
