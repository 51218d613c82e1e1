# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module Recorder
    # A stereo mix of some lanes a moment ago, each with its gains and delays, for somebody who listens elsewhere. It is computed from the look-back
    # on the thread of the request.
    class EarMix
      # Seconds of sound in one answer; frames that a way may be late; ways.
      LONGEST, LATE, WAYS = 1.0, 200_000, 1024
      WAY = Shape.record({ "lane" => Shape.whole(Formats::TakeManifest::LANE), "side" => Shape.whole(0..1), "late" => Shape.whole(0..LATE), "amplitude" => Shape.number(-10..10) })

      # @param rate [Integer] samples a second   @param ways [Array<Hash>] as WAY
      def initialize(rate, ways)
        @rate, @ways = rate, ways
        @lanes = ways.map { |way| way["lane"] }.uniq
        @late = ways.map { |way| way["late"] }.max.to_i
      end

      # @return [Integer] frames of look-back needed
      def reach = (LONGEST * 2 * @rate).round + @late

      # @param batches [Array<Batch>] of the look-back, oldest first
      # @param from [Integer, nil] position to continue from; nil, or a position no longer held, means the newest half second
      # @return [Hash] position, frames, rate and sound: interleaved stereo, 16-bit little-endian, in Base64
      def read(batches, from)
        return answer(0, Numo::DFloat.zeros(0, 2)) if batches.empty?

        first, last = batches.first.position, batches.last.position + batches.last.frames
        start = from&.between?(first + @late, last) ? from : [last - (@rate / 2), first].max
        upto = [last, start + (LONGEST * @rate).round].min
        answer(start, mix(sound(batches, start - @late, upto), upto - start))
      end

      private

      def mix(sound, frames)
        sum = Numo::DFloat.zeros(frames, 2)
        @ways.each do |way|
          at = @late - way["late"]
          sum[true, way["side"]] += sound[@lanes.index(way["lane"]), at...(at + frames)] * way["amplitude"] if frames.positive?
        end
        sum
      end

      # @return [Numo::DFloat] a row a lane; silent where nothing came
      def sound(batches, from, upto)
        sound = Numo::DFloat.zeros(@lanes.size, upto - from)
        batches.each { |batch| place(sound, batch, from, upto) unless batch.silent? || batch.position >= upto || batch.position + batch.frames <= from }
        sound
      end

      def place(sound, batch, from, upto)
        a, b = [from, batch.position].max, [upto, batch.position + batch.frames].min
        batch.streams.each do |first, count, bytes|
          mine = @lanes.each_index.select { |row| (@lanes[row] - 1).between?(first, first + count - 1) }
          next if bytes.nil? || mine.empty?

          block = Audio::Pcm24.from_network(bytes, count)
          mine.each { |row| sound[row, (a - from)...(b - from)] = block[(a - batch.position)...(b - batch.position), @lanes[row] - 1 - first] }
          Thread.pass
        end
      end

      def answer(position, sum)
        samples = sum.empty? ? "".b : Numo::Int16.cast(Audio::Dither.round(sum / 256, position, 32_768)).to_binary
        { "position" => position, "frames" => sum.shape[0], "rate" => @rate, "sound" => [samples].pack("m0") }
      end
    end
  end
end
