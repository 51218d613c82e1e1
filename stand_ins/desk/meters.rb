# frozen_string_literal: true

module Loomshuttle
  module StandIns
    module Desk
      # Peak and RMS of the channels at channel in, and of the mains, gathered over 50 ms.
      class Meters
        FRAMES = 2400

        def initialize(lanes, mains)
          @lanes = lanes
          @mains = mains
          clear
        end

        # @param channels [Numo::Int32] [frames, lanes]
        # @param mains [Numo::DFloat] [frames, mains]
        # @return [String, nil] every FRAMES the levels as a blob: for each point peak and RMS in hundredths of a dBFS,
        #   signed 16-bit big-endian, channels first
        def add(channels, mains)
          frames = channels.shape[0]
          @channel_sum.add(frames, Audio::Level.peak_amplitudes(channels), Audio::Level.mean_squares(channels))
          @main_sum.add(frames, Audio::Level.peak_amplitudes(mains), Audio::Level.mean_squares(mains))
          @frames += frames
          return if @frames < FRAMES

          blob = levels(@channel_sum, @lanes) + levels(@main_sum, @mains)
          clear
          blob.pack("s>*")
        end

        private

        def clear
          @channel_sum = Audio::LevelSum.new(@lanes)
          @main_sum = Audio::LevelSum.new(@mains)
          @frames = 0
        end

        def levels(sum, count)
          (0...count).flat_map { |lane| [(sum.peak_dbfs([lane]) * 100).round, (sum.rms_dbfs([lane]) * 100).round] }
        end
      end
    end
  end
end
