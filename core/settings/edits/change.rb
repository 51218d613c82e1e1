# frozen_string_literal: true

module Loomshuttle
  module Settings
    # One setting's change; `from` is what it was.
    Change = Value.define(:path, :from, :to)
  end
end
