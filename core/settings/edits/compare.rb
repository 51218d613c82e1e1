# frozen_string_literal: true

module Loomshuttle
  module Settings
    # The differences between two shows, or between a show and some settings.
    module Compare
      # @param one [Show]
      # @param other [Hash{String=>Object}] path => value; other paths are not compared
      # @return [Array<Change>] from one to the other, in the order of one's settings
      def self.settings(one, other)
        one.settings.filter_map { |path, value| Change.new(path: path, from: value, to: other[path]) if other.key?(path) && other[path] != value }
      end

      # @return [Array<Change>] differences of all settings; a setting that only one show has counts as empty in the other
      def self.shows(one, other)
        mine, theirs = one.settings, other.settings
        (mine.keys | theirs.keys).filter_map do |path|
          from, to = mine[path], theirs[path]
          Change.new(path: path, from: from, to: to) unless from == to || (blank?(from) && blank?(to))
        end
      end

      # @return [Hash{String=>Object}] settings for an edit that turns `one` into `other`
      def self.way(one, other)
        refit = one.rig.desk == other.rig.desk ? {} : Refit.settings(one, other.rig.desk)
        mine = (refit.empty? ? one : Edit.set("", refit).apply(one).first).settings
        refit.merge(other.settings.reject { |path, value| mine[path] == value })
      end

      # An empty setting that only one rig has does not count as a difference.
      def self.blank?(value) = value.nil? || value == "" || value == [] || value == false || value == "iron"
      private_class_method :blank?
    end
  end
end
