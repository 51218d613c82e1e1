# frozen_string_literal: true

module Loomshuttle
  module Checks
    # One result of a rule.
    #   id        stable while the same thing is wrong
    #   severity  BLOCKS: the job would fail; LOOK: somebody should look
    #   sentence  what is wrong, for a person
    #   path      Rig::Points that show it, in the signal's order
    #   at        Rig::Points to mark on the strand sheet: where the trouble is
    #   fix       Settings::Edit that mends it, or nil
    Finding = Value.define(:id, :check, :severity, :sentence, :path, :at, :fix)
    Finding::BLOCKS = "blocks"
    Finding::LOOK = "look"
  end
end
