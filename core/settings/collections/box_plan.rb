# frozen_string_literal: true

module Loomshuttle
  module Settings
    # One place for a stage box, a to h.
    #   profile   id of the box's profile; nil: there is no such box
    #   port      the desk's port whose link it hangs on, or nil; place: 1 for the first box of the chain
    #   input_offset, output_offset   lanes of the link before its own begin
    #   clock     "leads" or "follows"     spot   where it stands on stage: left, centre, right or nil
    BoxPlan = declare("box", :boxes, :desk, key: :letter, keys: ->(_) { LETTERS }, key_pattern: "[a-h]", words: ->(_, key) { "Box #{key.upcase}" }, rig: true) do
      offset = Kinds.whole(0..(Rig::Aes50::LANES - 1))

      setting :profile, Kinds.device("box").or_none, blank: nil, words: "profile", part: "rig", capture: :always
      setting :port, Kinds.one_known { |at| at.show.profile.ports }.or_none, blank: nil, words: "port", part: "rig", capture: :always
      setting :place, Kinds.whole(1..LETTERS.size), blank: 1, words: "place in the chain", part: "rig", capture: :always
      setting :input_offset, offset, blank: 0, words: "input offset", part: "rig", capture: :always
      setting :output_offset, offset, blank: 0, words: "output offset", part: "rig", capture: :always
      setting :clock, Kinds.one_of(*CLOCKS), blank: "follows", part: "rig", capture: :always
      setting :spot, Kinds.one_of(*SPOTS).or_none, blank: nil, words: "stage position", part: "rig", capture: :always
    end

    class BoxPlan
      # @return [String]
      def title = "Box #{letter.upcase}"
    end
  end
end
