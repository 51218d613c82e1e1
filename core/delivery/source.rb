# frozen_string_literal: true

module Loomshuttle
  module Delivery
    # A file, or one channel of it (from 0; nil: all of them).
    Source = Value.define(:sound, :lane) do
      # @return [Integer]
      def lanes = lane ? 1 : sound.lanes
    end
  end
end
