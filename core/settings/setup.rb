# frozen_string_literal: true

module Loomshuttle
  module Settings
    # What is set once for the show.
    #   card_mode, bits   of the card; bits a sample, 24 or 32 (float)    buffer   samples the recorder holds each way
    #   default_tap       where sends are taken that name no tap of their own
    #   own_mix           card returns that the recorder's own mix of a take leaves on, left and right, or none
    #   mirror            folder on the recording computer that takes a second copy of everything captured, or ""
    #   length_minutes    how long the show is captured
    #   monitoring        "desk", or "computer" when somebody hears the stage through it
    #   desk_follows      "at once": each edit goes to the desk; "when sent": the desk waits until the plan is sent
    #   alignment         dBFS at which a line check wants the loud parts (LineCheck::Alignment)
    #   accepted          finding id => reason why it may stay
    Setup = Value.define(:card_mode, :buffer, :bits, :default_tap, :own_mix, :mirror, :length_minutes, :monitoring, :desk_follows, :alignment, :accepted)
  end
end
