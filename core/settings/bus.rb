# frozen_string_literal: true

module Loomshuttle
  module Settings
    # What a bus is for.
    Bus = Value.define(:number, :name)
  end
end
