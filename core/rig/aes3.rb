# frozen_string_literal: true

module Loomshuttle
  module Rig
    # A digital line with two channels (AES3-2009: two channels in each frame; balanced cable of 110 ohm, EBU Tech 3250).
    # Figures from memory of the standard.
    module Aes3
      CHANNELS = 2
      IMPEDANCE_OHM = 110
    end
  end
end
