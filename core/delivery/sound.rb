# frozen_string_literal: true

module Loomshuttle
  module Delivery
    # A scanned file. frames and rate are those of the file; time_reference: samples since midnight, or nil; called: names of its channels from its
    # iXML chunk, in order, or nothing.
    Sound = Value.define(:path, :name, :rate, :lanes, :frames, :codec, :time_reference, :called) do
      # @return [String] file name without its folder
      def file = File.basename(path)
    end
  end
end
