# frozen_string_literal: true

module Loomshuttle
  # There is too much to do at the moment; the same request may succeed later.
  class Busy < Problem
    KIND = :busy

    def initialize(message, where: "busy") = super
  end
end
