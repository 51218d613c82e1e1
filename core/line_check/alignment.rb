# frozen_string_literal: true

module Loomshuttle
  module LineCheck
    # Tolerances around the alignment level (Settings::ALIGNMENT_LEVELS), and the distance to full scale.
    module Alignment
      # Peaks stay this clear of full scale, as bands play louder in the show (common practice, no published source).
      CEILING_DB = -6.0
      # A loud part this near to the alignment level is good (common practice, no published source).
      TOLERANCE_DB = 3.0
      # How far a clipped source really went is not known: it is turned down so much at least, and heard again.
      AFTER_CLIP_DB = 10.0
    end
  end
end
