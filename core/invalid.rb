# frozen_string_literal: true

module Loomshuttle
  # Input that cannot be accepted. The message is a sentence for a person; `where` names the setting or place.
  class Invalid < StandardError
    attr_reader :where

    def initialize(message, where: nil)
      super(message)
      @where = where
    end
  end
end
