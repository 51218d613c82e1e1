# frozen_string_literal: true

module Loomshuttle
  module Runtime
    # Where a card may be: on this computer, or on hosts that were named at the start.
    module CardHosts
      LOOPBACK = /\A127\.\d{1,3}\.\d{1,3}\.\d{1,3}\z/

      # @return [Array<String>] allowed addresses besides this computer's own, from the environment
      def self.others = ENV.fetch("LOOMSHUTTLE_CARD_HOSTS", "").split(",")

      # @param host [String, nil] from a card's description
      # @return [Boolean]
      def self.allow?(host, others = self.others) = host.to_s.match?(LOOPBACK) || others.include?(host)
    end
  end
end
