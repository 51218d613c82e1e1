# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module Audio
    # Levels in dBFS. RMS follows AES17: a full-scale sine reads 0 dBFS RMS, so 3.01 dB are added to the plain RMS.
    module Level
      SILENCE_DB = -144.0
      # A sample this high was clipped, or as good as: full scale within 0.1 dB. In dBFS, and as an amplitude.
      CLIPPED_DB = -0.1
      CLIPPED = 10**(CLIPPED_DB / 20)
      # A step of the byte that loudness is drawn from.
      BYTE_DB = 0.375
      AES17_OFFSET_DB = 10 * Math.log10(2)

      # @param amplitude [Float] full scale 1.0
      # @return [Float] dBFS, SILENCE_DB at the lowest
      def self.dbfs(amplitude) = amplitude <= 0 ? SILENCE_DB : [20 * Math.log10(amplitude), SILENCE_DB].max

      # @return [Integer] the amplitude as a take's overview stores it: 255 at full scale, BYTE_DB per step, 0 for the lowest
      def self.byte(amplitude) = (255 + (dbfs(amplitude) / BYTE_DB)).round.clamp(0, 255)

      # @return [Float] amplitude for a level in dB; 1.0 at 0 dB
      def self.amplitude(decibels) = 10**(decibels / 20.0)

      # @param block [Numo::DFloat, Numo::Int32] [frames, lanes]; integers are 24-bit
      # @return [Array<Float>] dBFS of the highest sample of each lane
      def self.peak(block) = peak_amplitudes(block).map { |amplitude| dbfs(amplitude) }

      # @return [Array<Float>] dBFS RMS of each lane by AES17
      def self.rms(block)
        mean_squares(block).map { |square| rms_of(square) }
      end

      # @param mean_square [Float] full scale 1.0
      # @return [Float] dBFS RMS by AES17
      def self.rms_of(mean_square) = mean_square <= 0 ? SILENCE_DB : [dbfs(Math.sqrt(mean_square)) + AES17_OFFSET_DB, SILENCE_DB].max

      # @return [Array<Float>] highest absolute value of each lane, full scale 1.0
      def self.peak_amplitudes(block) = peaks(block.transpose, scale(block)).to_a

      # @return [Array<Float>] mean of the squares of each lane, full scale 1.0
      def self.mean_squares(block) = measured(block).last.to_a

      # @return [Array(Numo::DFloat, Numo::DFloat)] peak_amplitudes and mean_squares
      def self.measured(block)
        rows, full = block.transpose, scale(block)
        [peaks(rows, full), (floats(rows).rms(axis: 1) / full)**2]
      end

      # Each thread reuses one array, which stays in the processor's cache: converting into a new one takes three times as long.
      def self.floats(rows)
        return rows if rows.is_a?(Numo::DFloat)

        room = Thread.current.thread_variable_get(:levels)
        Thread.current.thread_variable_set(:levels, room = Numo::DFloat.new(*rows.shape).allocate) unless room&.shape == rows.shape
        room.store(rows)
        room
      end

      def self.peaks(rows, full)
        low, high = rows.minmax(axis: 1)
        Numo::DFloat.maximum(high, -low) / full
      end

      def self.scale(block) = block.is_a?(Numo::Int32) ? Pcm24::FULL_SCALE.to_f : 1.0
      private_class_method :floats, :peaks, :scale
    end
  end
end
