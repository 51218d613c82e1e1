# frozen_string_literal: true

module Loomshuttle
  module Patch
    # What is set once for the show: the card's mode, the recorder's buffer each way in samples, and bits a sample.
    Setup = Value.define(:card_mode, :buffer, :bits)
  end
end
