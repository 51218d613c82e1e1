# frozen_string_literal: true

module Loomshuttle
  module Delivery
    # A file as it was looked at. frames and rate are its own; time_reference: samples since midnight, or nil; called: what its lanes are
    # called in the file itself (iXML), in order, or nothing.
    Sound = Value.define(:path, :name, :rate, :lanes, :frames, :codec, :time_reference, :called) do
      # @return [String] its name without folder
      def file = File.basename(path)
    end
  end
end
