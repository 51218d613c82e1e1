# frozen_string_literal: true

module Loomshuttle
  # There is no room on a disk for what is asked. Nothing of it was kept.
  class Full < Invalid
    def initialize(message, where: "disk", faults: []) = super
  end
end
