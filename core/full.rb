# frozen_string_literal: true

module Loomshuttle
  # A disk has no room for what is asked. Nothing of it was saved.
  class Full < Invalid
    KIND = :full

    def initialize(message, where: "disk", faults: []) = super

    def details = {}
  end
end
