# frozen_string_literal: true

module Loomshuttle
  # Input that cannot be accepted. The message is a sentence for a person; `where` names the setting or place, and `faults`
  # lists every one where there are several.
  class Invalid < StandardError
    # One fault of several.
    Fault = Value.define(:where, :message)

    attr_reader :where, :faults

    # @param faults [Array<Fault>]
    def initialize(message, where: nil, faults: [])
      super(message)
      @where = where
      @faults = faults
    end
  end
end
