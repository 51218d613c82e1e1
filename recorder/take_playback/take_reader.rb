# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module Recorder
    # Reads a take for the card's returns: each track's file to the output lanes that it has now and, if wanted, the recorder mix of all tracks to
    # two more lanes.
    class TakeReader
      # A mono track goes to both sides of the own mix 3 dB lower (common practice, no published source).
      CENTRE = Math.sqrt(0.5)

      attr_reader :frames, :position, :from, :to, :loop

      # @param folder [String] the take's folder
      # @param manifest [Hash]
      # @param outputs [Hash{Integer=>Array<Integer>}] track number => return lanes (1-based)
      # @param lanes [Integer] returns of the card
      # @param own_mix [Array<Integer>] return lanes of the own mix, left and right; empty for none
      # @param from [Integer] first frame   @param to [Integer, nil] frame after the last
      # @param loop [Boolean] whether to repeat from `from`
      # @raise [Invalid] if the range exceeds the take, or none of its tracks has an output
      def initialize(folder, manifest, outputs:, lanes:, own_mix: [], from: 0, to: nil, loop: false)
        @frames = manifest["frames"]
        @from, @to, @loop, @lanes = from, to || @frames, loop, lanes
        @own_mix = own_mix.select { |lane| lane <= lanes }
        check_range
        @parts = open_parts(folder, manifest, outputs)
        raise Invalid.new("No track of this take has an output lane; set one in Patch.", where: "play") if @parts.empty?

        @shared = (@parts.flat_map(&:last).tally.select { |_, count| count > 1 }.keys + @own_mix).uniq
        @limited = 0
        @position = from
      end

      # @return [Integer] samples of sums that were limited at full scale so far
      attr_reader :limited

      # @return [Array<Integer>] return lanes it plays on
      def lanes_played = (@parts.flat_map(&:last) + @own_mix).uniq

      # @param count [Integer] frames
      # @return [Numo::Int32] [count, lanes]; silence after the end
      def read(count)
        block = Numo::Int32.zeros(count, @lanes)
        filled = 0
        while filled < count && !done?
          size = [count - filled, @to - @position].min
          mix(block, filled, size)
          filled += size
          @position += size
          @position = @from if @loop && @position >= @to
        end
        block
      end

      # @param frame [Integer] counted without wrapping at the loop's end
      # @return [Integer] frame of the take, wrapped into the loop
      def place(frame)
        return [frame, @to].min unless @loop

        @from + ((frame - @from) % (@to - @from))
      end

      # @return [Boolean] whether the end has been reached
      def done? = @position >= @to

      def close = @parts.map(&:first).each(&:close)

      private

      def check_range
        return if @from.between?(0, @frames) && @to.between?(@from + 1, @frames)

        raise Invalid.new("The range #{@from} to #{@to} is not inside the take, which has #{@frames} frames.", where: "from")
      end

      def open_parts(folder, manifest, outputs)
        manifest["tracks"].filter_map do |track|
          out = outputs.fetch(track["number"], [])
          out = [] if out.any? { |lane| lane > @lanes }
          next if out.empty? && @own_mix.empty?

          [Formats::Wav::Reader.new(File.join(folder, track["file"])), out]
        end
      end

      # A track alone on its lane stays as it is, sample for sample. What shares a lane, and the own mix, is added up in full precision and
      # limited once, at the end.
      def mix(block, at, size)
        sums = Hash.new { |made, lane| made[lane] = Numo::DFloat.zeros(size) }
        @parts.each do |reader, out|
          Thread.pass
          samples = reader.read(@position, size)
          out.each_with_index { |lane, side| add(block, sums, at, lane, samples[true, [side, reader.lanes - 1].min]) }
          @own_mix.each_with_index { |lane, side| sums[lane][0...samples.shape[0]] += own_side(samples, side) }
        end
        sums.each { |lane, sum| block[at...(at + size), lane - 1] = integers(sum) }
      end

      def add(block, sums, at, lane, column)
        return sums[lane][0...column.size] += column if @shared.include?(lane)

        block[at...(at + column.size), lane - 1] = column
      end

      def integers(sum)
        whole = sum.round
        kept = whole.clip(-Audio::Pcm24::FULL_SCALE, Audio::Pcm24::FULL_SCALE - 1)
        @limited += whole.ne(kept).count_true
        kept
      end

      def own_side(samples, side) = samples.shape[1] == 1 ? samples[true, 0] * CENTRE : samples[true, side]
    end
  end
end
