# frozen_string_literal: true

module Loomshuttle
  # Something that cannot be done, in a sentence for a person. Every error that a person can meet is one of these. Its kind alone decides the
  # HTTP status (Web::Statuses), the JSON-RPC code (Runtime::Rpc) and the exit code (CommandLine::ExitCodes).
  class Problem < StandardError
    # In the order of their JSON-RPC codes, from 1.
    KINDS = %i[invalid not_found stale busy away full unknown undecided].freeze

    # @return [String, nil] the setting, file or part concerned
    attr_reader :where

    # @param kind [Symbol, String, nil] one of KINDS
    # @return [Problem] of that kind; an Invalid if the kind has no class
    def self.of(kind, message, where: nil)
      { not_found: NotFound, stale: Stale, busy: Busy, away: Away, full: Full }.fetch(kind&.to_sym, Invalid).new(message, where: where)
    end

    # @param message [String]
    def initialize(message, where: nil)
      super(message)
      @where = where
    end

    # @return [Symbol] one of KINDS
    def kind = self.class::KIND

    # @return [Hash] further fields of the error answer
    def details = {}
  end
end
