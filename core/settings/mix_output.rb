# frozen_string_literal: true

module Loomshuttle
  module Settings
    # One of the desk's outputs: the mix that feeds it ("desk/main/l") or nil, taken post-fader, and the socket where the
    # engineer counts on it ("box-b/out/7") or nil.
    MixOutput = Value.define(:number, :source, :expected) do
      # @return [String, nil]
      def point = source && "#{source}@post-fader"
    end
  end
end
