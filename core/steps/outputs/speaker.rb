# frozen_string_literal: true

module Loomshuttle
  module Steps
    # Adds a speaker to an output: a main speaker at the stage edge if it carries main, otherwise a delay speaker further out. Both can be moved
    # from there.
    module Speaker
      # Metres: main speakers to each side, and a delayed one from the stage.
      ASIDE, OUT = { "l" => -5, "r" => 5 }.freeze, 20

      # @param show [Settings::Show]   @param number [Integer] of an output
      # @return [Settings::Edit]
      # @raise [Invalid] if there is no such output, or it carries nothing
      def self.edit(show, number)
        output = show.outputs[number] or raise Invalid.new("There is no output #{number}.", where: "output")
        raise Invalid.new("Output #{number} carries nothing that a speaker could play.", where: "output/#{number}/source") unless output.source

        main = output.source.kind == "main"
        Settings::Edit.set("Output #{number} feeds a speaker", "output/#{number}/speaker" => main ? "main" : "zone",
                                                               "output/#{number}/x" => main ? ASIDE.fetch(output.source.side, 0) : 0, "output/#{number}/y" => main ? 0 : OUT)
      end
    end
  end
end
