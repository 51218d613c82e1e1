# frozen_string_literal: true

module Loomshuttle
  module Patch
    # What a bus is for.
    Bus = Value.define(:number, :name)
  end
end
