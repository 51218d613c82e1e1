# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module Audio
    # Linear timecode (SMPTE ST 12-1) at 24, 25 or 30 frames per second, non-drop, as a function of the frame number. Its polarity bit makes each
    # frame start at the same level, so any part can be generated separately.
    class Ltc
      FRAMES = [24, 25, 30].freeze
      BITS = 80
      SYNC = [0, 0, 1, 1, 1, 1, 1, 1, 1, 1, 1, 1, 1, 1, 0, 1].freeze
      # Where figures lie in a word: first bit and how many, of units and tens.
      PLACES = { frames: [[0, 4], [8, 2]], seconds: [[16, 4], [24, 3]], minutes: [[32, 4], [40, 3]], hours: [[48, 4], [56, 2]] }.freeze
      # Half of full scale.
      AMPLITUDE = 0.5

      # @param rate [Integer] samples a second   @param fps [Integer] of FRAMES
      def initialize(rate, fps)
        @rate, @fps = rate, fps
        @kept = {}
      end

      # @param from [Integer] sample since the frame `first`; may be negative   @param frames [Integer] samples
      # @param first [Integer] number of the frame at sample 0, counted from midnight
      # @return [Numo::SFloat] [frames]
      def read(from, frames, first = 0)
        out = Numo::SFloat.zeros(frames)
        number = (from * @fps).div(@rate)
        while (start = sample(number)) < from + frames
          wave = wave_of(first + number, sample(number + 1) - start)
          at, last = [from - start, 0].max, [from + frames - start, wave.size].min
          out[(start + at - from)...(start + last - from)] = wave[at...last] if at < last
          number += 1
        end
        out
      end

      # @param number [Integer] of a frame since midnight
      # @return [Array<Integer>] its 80 bits, in the order in which they are sent
      def word(number)
        bits = [0] * BITS
        figures(number).each { |field, value| PLACES.fetch(field).zip([value % 10, value / 10]) { |(at, count), digit| count.times { |n| bits[at + n] = digit[n] } } }
        bits[64, 16] = SYNC
        bits[@fps == 25 ? 59 : 27] = 1 if bits.count(0).odd?
        bits
      end

      private

      def sample(number) = Rational(number * @rate, @fps).ceil

      def figures(number)
        seconds, frames = (number % (24 * 3600 * @fps)).divmod(@fps)
        { frames: frames, seconds: seconds % 60, minutes: seconds / 60 % 60, hours: seconds / 3600 }
      end

      # Biphase mark: the level turns at each bit, and in the middle of each one. Few are kept: those of one block.
      def wave_of(number, size)
        @kept.clear if @kept.size > 8
        @kept[number] ||= begin
          wave = Numo::SFloat.new(size).fill(AMPLITUDE)
          turns = word(number).each_with_index.flat_map { |bit, at| bit == 1 ? [2 * at, (2 * at) + 1] : [2 * at] }.map { |half| (half * size / (BITS * 2.0)).round }
          turns.each_slice(2) { |down, up| wave[down...(up || size)] = -AMPLITUDE if down < (up || size) }
          wave
        end
      end
    end
  end
end
