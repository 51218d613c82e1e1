# frozen_string_literal: true

require "sequel"

module Loomshuttle
  module Web
    # The takes as their folders tell, followed into the database; those that ended in their mirror are found there. Its thread:
    #   follows takes   looks when told to, and every few seconds, so that takes made while the database was away appear afterwards
    class TakeShelf
      EVERY = 2

      # @param folder [String] of all takes
      # @param store [Store::Takes]
      # @param on_change [Proc] called when takes have come, changed or gone
      def initialize(folder, store, on_change:)
        @folder, @store, @on_change = File.expand_path(folder), store, on_change
        @wake = Runtime::Wakeup.new
        @reconciling = Mutex.new # held while folders and database are compared; asks nobody but them
      end

      # @param folder [String, nil] where second copies are made now
      attr_writer :mirror

      def start
        @worker = Runtime::Worker.start("follows takes") { follow }
      end

      def stop
        look
        @worker&.stop(seconds: 2)
      end

      # Looks at once.
      def look = @wake.wake

      # @return [Array<Hash>] manifests with "folder", newest first
      # @raise [Sequel::DatabaseError] when the database is away
      def all = @store.all

      # @return [Hash] one take
      # @raise [Missing] when there is none of that number or id
      def find(take)
        all.find { |one| one["id"] == take.to_s || one["number"].to_s == take.to_s } or
          raise Missing.new("There is no take #{Text.readable(take, most: 60)}.", where: "take")
      end

      # @return [Hash] one take that can be heard and packed
      # @raise [Invalid] also when it cannot be read
      def readable(take)
        found = find(take)
        return found unless found["state"] == Formats::TakeManifest::UNREADABLE

        raise Invalid.new("#{found['name']} cannot be read. #{found['note']}", where: "take")
      end

      # Follows the folders now.
      def reconcile
        changed = @reconciling.synchronize { @store.reconcile(found) }
        @on_change.call if changed.positive?
      end

      private

      def follow
        reconcile
        @wake.wait(EVERY)
      end

      # The longest copy of each, and of equal ones the first.
      def found
        first = Formats::TakeManifest.all(@folder)
        mirrors = [@mirror, *first.map { |_, manifest| manifest.dig("mirror", "folder") }].compact.uniq - [@folder]
        copies = first + mirrors.flat_map { |root| copies_in(root) }
        copies.group_by { |_, manifest| manifest["id"] }.values.map { |same| same.max_by { |_, manifest| [manifest["frames"], manifest["state"] == "complete" ? 1 : 0] } }
      end

      # A disk that is gone, or that somebody else has filled, hides none of ours.
      def copies_in(root)
        Formats::TakeManifest.all(root).reject { |_, manifest| manifest["state"] == Formats::TakeManifest::UNREADABLE }
      rescue SystemCallError
        []
      end
    end
  end
end
