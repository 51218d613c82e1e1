# frozen_string_literal: true

module Loomshuttle
  module StandIns
    module Desk
      # Peak and RMS of the channels at channel in, of the mains and of the outputs, gathered over 50 ms.
      class Meters
        TIMES_A_SECOND = 20

        # @param points [Array<Integer>] how many channels, mains and outputs there are   @param rate [Integer]
        def initialize(points, rate)
          @due = rate / TIMES_A_SECOND
          @points = points
          clear
        end

        # @param blocks [Array<Numo::Int32, Numo::DFloat>] [frames, points] of channels, mains and outputs
        # @return [Array<Array(Numo::DFloat, Numo::DFloat), nil>] peaks and mean squares of each; nil if it has no points
        def measure(*blocks) = blocks.map { |block| Audio::Level.measured(block) if block.size.positive? }

        # @param frames [Integer] length of a block   @param levels [Array] from measure
        # @return [String, nil] every 50 ms, the levels as a blob: for each point, peak and RMS in hundredths of a dBFS,
        #   signed 16-bit big-endian, channels first
        def add(frames, levels)
          @sums.zip(levels) { |sum, measured| sum.add(frames, *measured) if measured }
          @frames += frames
          return if @frames < @due

          blob = @sums.zip(@points).flat_map { |sum, count| of_points(sum, count) }
          clear
          blob.pack("s>*")
        end

        private

        def clear
          @sums = @points.map { |count| Audio::LevelSum.new(count) }
          @frames = 0
        end

        def of_points(sum, count)
          (0...count).flat_map { |lane| [(sum.peak_dbfs([lane]) * 100).round, (sum.rms_dbfs([lane]) * 100).round] }
        end
      end
    end
  end
end
