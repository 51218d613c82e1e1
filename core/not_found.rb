# frozen_string_literal: true

module Loomshuttle
  # There is nothing of the name or number that was given.
  class NotFound < Invalid
    KIND = :not_found

    def details = {}
  end
end
