# frozen_string_literal: true

module Loomshuttle
  module Settings
    # A block of outlets (sockets of the desk, or lanes of a link) that are fed together: the desk output that the first
    # one carries, the others following on; nil: silent.
    Outlet = Value.define(:block, :first)
  end
end
