# frozen_string_literal: true

module Loomshuttle
  # An edit was made against a version that is no longer the newest. Nothing was changed.
  class Stale < Problem
    KIND = :stale

    def initialize(message, where: "version") = super

    def details = { version: 0, entries: [] }
  end
end
