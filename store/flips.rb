# frozen_string_literal: true

module Loomshuttle
  module Store
    # Flips between stage and take. They move sound at once, so they are not part of undo; Return to stage takes them back.
    module Flips
      PATH = %r{\Achannel/\d+/position\z}

      # @param changes [Array<Settings::Change>]
      # @return [Boolean] whether all changes are flips
      def self.only?(changes) = !changes.empty? && changes.all? { |change| PATH.match?(change.path) }

      # @param kind [String] of a journal entry   @return [String] "flip" if the changes are only flips, else the kind itself
      def self.kind(kind, changes) = kind == "edit" && only?(changes) ? "flip" : kind

      # @return [Array<Settings::Change>]
      def self.without(changes) = changes.reject { |change| PATH.match?(change.path) }
    end
  end
end
