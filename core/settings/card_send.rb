# frozen_string_literal: true

module Loomshuttle
  module Settings
    # What leaves on one lane of the card towards the computer: the base point of a channel, bus or main
    # ("desk/ch/7", "desk/main/l") or nil, and the tap where it is taken; nil: the show's default tap.
    CardSend = Value.define(:lane, :source, :tap)
  end
end
