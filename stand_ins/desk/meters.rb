# frozen_string_literal: true

module Loomshuttle
  module StandIns
    module Desk
      # Peak and RMS of the channels at channel in, of the mains and of the outputs, gathered over 50 ms.
      class Meters
        TIMES_A_SECOND = 20

        # @param lanes [Integer] of channels  @param mixes [Integer] mains and outputs  @param rate [Integer]
        def initialize(lanes, mixes, rate)
          @due = rate / TIMES_A_SECOND
          @lanes = lanes
          @mixes = mixes
          clear
        end

        # @param channels [Numo::Int32] [frames, lanes]
        # @param mixes [Array<Numo::DFloat>] [frames, mains] and [frames, outputs]
        # @return [String, nil] every 50 ms the levels as a blob: for each point peak and RMS in hundredths of a dBFS,
        #   signed 16-bit big-endian, channels first
        def add(channels, *mixes)
          frames = channels.shape[0]
          @channel_sum.add(frames, Audio::Level.peak_amplitudes(channels), Audio::Level.mean_squares(channels))
          @mix_sum.add(frames, mixes.flat_map { |mix| Audio::Level.peak_amplitudes(mix) }, mixes.flat_map { |mix| Audio::Level.mean_squares(mix) })
          @frames += frames
          return if @frames < @due

          blob = levels(@channel_sum, @lanes) + levels(@mix_sum, @mixes)
          clear
          blob.pack("s>*")
        end

        private

        def clear
          @channel_sum = Audio::LevelSum.new(@lanes)
          @mix_sum = Audio::LevelSum.new(@mixes)
          @frames = 0
        end

        def levels(sum, count)
          (0...count).flat_map { |lane| [(sum.peak_dbfs([lane]) * 100).round, (sum.rms_dbfs([lane]) * 100).round] }
        end
      end
    end
  end
end
