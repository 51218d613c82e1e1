# frozen_string_literal: true

module Loomshuttle
  module Settings
    # One place for a stage box, a to h.
    #   profile   id of the box's profile; nil: there is no such box
    #   port      the desk's port whose link it hangs on, or nil; place: 1 for the first box of the chain
    #   input_offset, output_offset   lanes of the link before its own begin
    #   clock     "leads" or "follows"     spot   where it stands on stage: left, centre, right or nil
    BoxPlan = Value.define(:letter, :profile, :port, :place, :input_offset, :output_offset, :clock, :spot) do
      # @return [String]
      def title = "Box #{letter.upcase}"
    end
  end
end
