# frozen_string_literal: true

module Loomshuttle
  # Rules that a show should keep, one a file. Each rule is a module with `findings(context)`.
  module Checks
    # What rules look at.
    Context = Value.define(:show, :graph, :strands) do
      # @param show [Patch::Show]
      def self.of(show)
        graph = Signal.build(show)
        new(show: show, graph: graph, strands: Signal::Strands.of(show, graph))
      end
    end

    ALL = %i[CardMode ArmedWithoutSource SharedLane ForeignReturn NotAtPreamp StagePreampOnTake ChannelWithoutSocket
             LeftOnTake].freeze

    # @param context [Context]
    # @return [Array<Finding>] those that block first, otherwise in the order of ALL
    def self.run(context)
      ALL.flat_map { |name| const_get(name).findings(context) }.sort_by.with_index do |finding, at|
        [finding.severity == Finding::BLOCKS ? 0 : 1, at]
      end
    end
  end
end
