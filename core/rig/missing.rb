# frozen_string_literal: true

module Loomshuttle
  module Rig
    # Sources that the desk's patch can name but the rig does not have, in ranges: "In 13 to 40", because the Alder 40 has only 12 In sockets.
    module Missing
      Run = Value.define(:first, :last, :why) do
        # @return [String] e.g. "In 13 to 40", "Link A, lanes 33 to 48"
        def label
          one = Label.for(first)
          first == last ? one : "#{one.sub(/lane (\d+)\z/, 'lanes \1')} to #{last.number}"
        end
      end

      # @param layout [Layout]
      # @return [Array<Run>] first and last as points
      def self.runs(layout)
        layout.sources.select(&:missing).chunk_while { |one, other| plain(one) == plain(other) && one.point.kin?(other.point) }
          .map { |run| Run.new(first: run.first.point, last: run.last.point, why: run.size > 1 ? plain(run.first) : run.first.missing) }
      end

      class << self
        private

        # The reason without the one number that it tells.
        def plain(source) = source.missing.sub(/reaches lane \d+\z/, "reaches these lanes")
      end
    end
  end
end
