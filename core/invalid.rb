# frozen_string_literal: true

module Loomshuttle
  # Input that cannot be accepted. `faults` lists every fault where there are several.
  class Invalid < Problem
    KIND = :invalid

    # One fault of several.
    Fault = Value.define(:where, :message)

    # @return [Array<Fault>]
    attr_reader :faults

    # @param faults [Array<Fault>]
    def initialize(message, where: nil, faults: [])
      super(message, where: where)
      @faults = faults
    end

    def details = { faults: faults.map(&:to_h) }
  end
end
