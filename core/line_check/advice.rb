# frozen_string_literal: true

module Loomshuttle
  module LineCheck
    # The advice for a level, in steps of the preamp.
    #   change   dB to turn the preamp by, 0 for nothing    to   the gain then
    #   missing  dB that the preamp cannot give or take: the source has to (positive: louder); 0.0 when it can
    #   needed   dB by which the source is away from where it should be, however far the preamp goes
    Advice = Value.define(:change, :to, :missing, :needed) do
      # Puts loud passages at the alignment level and keeps peaks below the ceiling, because the show is louder than its line check.
      # @param measure [Measure] that has heard enough (Measure#heard?)
      # @param alignment [Integer] target level for loud passages in dBFS
      # @param gain [Numeric, nil] of the preamp in dB; nil if there is none
      # @param preamp [Rig::Preamp, nil]
      # @return [Advice]
      def self.for(measure, alignment:, gain:, preamp:)
        needed = [alignment - measure.loud, Alignment::CEILING_DB - measure.peak].min
        needed = [needed, -Alignment::AFTER_CLIP_DB].min if measure.clips.positive?
        return new(change: 0, to: nil, missing: needed, needed: needed) unless gain && preamp

        to = nearest(gain + needed, preamp)
        new(change: to - gain, to: to, missing: gain + needed - (gain + needed).clamp(preamp.min_db, preamp.max_db), needed: needed)
      end

      # Rounds down to a step of the preamp, within its range.
      def self.nearest(gain, preamp)
        steps = ((gain - preamp.min_db + 1e-6) / preamp.step_db).floor
        (preamp.min_db + (steps * preamp.step_db)).clamp(preamp.min_db, preamp.max_db)
      end
      private_class_method :nearest
    end
  end
end
