# frozen_string_literal: true

module Loomshuttle
  module Supervisor
    # All ports of one instance, counted from the web's, so that two instances whose --port are 40 apart never meet.
    Ports = Value.define(:web) do
      def database = web + 1
      def osc = web + 2
      # First of the card's streams each way; streams are two apart, as RTP asks (RFC 3550, 11).
      def sends = web + 10
      def returns = web + 26
    end
  end
end
