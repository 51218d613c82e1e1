# frozen_string_literal: true

module Loomshuttle
  # The graph that the settings make: points (Rig::Point) joined by joins. Everything that asks where sound goes asks here.
  module Signal
    # @param show [Settings::Show]
    # @return [Graph] structure only; levels are in Levels
    def self.build(show) = Build.new(show).graph
  end
end
