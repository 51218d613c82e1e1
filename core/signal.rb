# frozen_string_literal: true

module Loomshuttle
  # The graph that the settings make: points (Rig::Point) joined by joins. Everything that asks where sound goes asks here.
  module Signal
    # @param show [Settings::Show]
    # @return [Graph] its structure; how loud it is, Levels say
    def self.build(show) = Build.new(show).graph
  end
end
