# frozen_string_literal: true

module Loomshuttle
  module LineCheck
    # The measured levels of one source: frames of 50 ms with peak and RMS in dBFS. Loud passages, peak and clips are those of the last ten seconds
    # with signal, so a verdict stays when the player stops.
    class Measure
      # 50 ms frames in ten seconds.
      FRAMES = 200
      # A frame whose peak is below this is not sound of the source, but the room.
      SOUNDS_DB = -60.0
      # So many frames (one second) make a verdict.
      ENOUGH = 20
      # The gate of ITU-R BS.1770-4: what is 10 dB below the mean of all is not part of the loud part.
      GATE_DB = 10.0
      # A noise made just now is this much above what went before (common practice, no published source).
      RISE_DB = 12.0
      RECENT = 3
      BEFORE = 30

      # @return [Float] dBFS now
      attr_reader :now
      # @return [Integer, nil] position (samples) of the last frame in which it sounded
      attr_reader :sounded_at

      def initialize = reset

      # Forgets everything, e.g. after the preamp was changed.
      def reset
        @all, @sounding = [], []
        @now = Audio::Level::SILENCE_DB
        @sounded_at = nil
      end

      # @param position [Integer] in samples  @param peak [Float] dBFS  @param rms [Float] dBFS by AES17
      def add(position, peak, rms)
        @now = peak
        keep(@all, [peak, rms])
        return if peak < SOUNDS_DB

        @sounded_at = position
        keep(@sounding, [peak, rms])
      end

      # @return [Boolean] whether the source has sounded long enough for a verdict
      def heard? = @sounding.size >= ENOUGH

      # @return [Float, nil] dBFS RMS of the loud passages; nil before it has sounded
      def loud
        squares = @sounding.map { |_, rms| 10**(rms / 10) }
        return if squares.empty?

        gate = mean(squares) * (10**(-GATE_DB / 10))
        10 * Math.log10(mean(squares.select { |square| square >= gate }))
      end

      # @return [Float, nil] dBFS of the highest sample
      def peak = @sounding.map(&:first).max

      # @return [Integer] frames that reached full scale
      def clips = @sounding.count { |peak, _| peak >= Audio::Level::CLIPPED_DB }

      # @return [Float, nil] dBFS RMS that a tenth of the last ten seconds stays below
      def noise_floor = @all.size < ENOUGH ? nil : @all.map(&:last).sort[@all.size / 10]

      # @return [Float] dB by which the latest frames exceed those before; 0 while it is quiet
      def rise
        recent = @all.last(RECENT).map(&:first)
        before = @all[0...-RECENT]&.last(BEFORE).to_a.map(&:first)
        return 0.0 if before.size < BEFORE / 2 || recent.max < SOUNDS_DB

        recent.max - [before.sort[before.size / 2], SOUNDS_DB].max
      end

      # @return [Boolean] whether the source just started to sound
      def rose? = rise >= RISE_DB

      private

      def keep(list, frame)
        list << frame
        list.shift if list.size > FRAMES
      end

      def mean(list) = list.sum / list.size
    end
  end
end
