# frozen_string_literal: true

module Loomshuttle
  module Store
    # Changes of what channels hear, stage or take: they move sound at once, so that they have their own way back and are not part of undo.
    module Flips
      PATH = %r{\Achannel/\d+/position\z}

      # @param changes [Array<Settings::Change>]
      # @return [Boolean] whether there is nothing else
      def self.only?(changes) = !changes.empty? && changes.all? { |change| PATH.match?(change.path) }

      # @param kind [String] of a journal entry as it would be   @return [String] as it is
      def self.kind(kind, changes) = kind == "edit" && only?(changes) ? "flip" : kind

      # @return [Array<Settings::Change>]
      def self.without(changes) = changes.reject { |change| PATH.match?(change.path) }
    end
  end
end
