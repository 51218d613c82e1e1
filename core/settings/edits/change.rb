# frozen_string_literal: true

module Loomshuttle
  module Settings
    # The change of one setting; `from` is its former value.
    Change = Value.define(:path, :from, :to)
  end
end
