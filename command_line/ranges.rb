# frozen_string_literal: true

module Loomshuttle
  module CommandLine
    # "1-4,7" as numbers.
    module Ranges
      # @return [Array<Integer>]
      # @raise [Client::Failed]
      def self.parse(text)
        text.split(",").flat_map do |part|
          from, to = part.strip.match(/\A(\d+)(?:-(\d+))?\z/)&.captures
          raise Client::Failed, "\"#{part}\" is not a channel or range; write 1-16 or 1,3,5-8." unless from
          raise Client::Failed, "The range #{part} runs backwards." if to && to.to_i < from.to_i

          (from.to_i..(to || from).to_i).to_a
        end
      end
    end
  end
end
