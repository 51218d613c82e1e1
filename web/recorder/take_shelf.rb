# frozen_string_literal: true

require "sequel"

module Loomshuttle
  module Web
    # Keeps the list of takes in the database equal to their folders, also for takes that ended in their mirror. A manifest is read again only when
    # it has changed. Its thread:
    #   follows takes   looks when told to, and every few seconds, so that takes made while the database was away appear afterwards
    class TakeShelf
      EVERY = 2
      # Many takes make a look slow, so looks become rarer: the pause is this many times the duration of the last one.
      REST = 150

      # @param folder [String] of all takes
      # @param store [Store::Takes]
      # @param on_change [Proc] called when takes appeared, changed or vanished
      def initialize(folder, store, on_change:)
        @folder, @store, @on_change = File.expand_path(folder), store, on_change
        @wake = Runtime::Wakeup.new
        @reconciling = Mutex.new # held while folders and database are compared; asks nobody but them
        @looking = Mutex.new # held while folders are looked at
        @indexes = {}
      end

      # @param folder [String, nil] where second copies are made now
      attr_writer :mirror

      def start
        @worker = Runtime::Worker.start("follows takes", priority: Runtime::Worker::PATIENT) { follow }
      end

      def stop
        look
        @worker&.stop(seconds: 2)
      end

      # Looks at the folder at once.
      def look = @wake.wake

      # @return [Array<Hash>] manifests with "folder", newest first; identical objects until they change
      def all = @looking.synchronize { found }

      # @return [Hash] one take
      # @raise [NotFound] if there is no take with that number or id
      def find(take)
        all.find { |one| one["id"] == take.to_s || one["number"].to_s == take.to_s } or
          raise NotFound.new("There is no take #{Text.readable(take, most: 60)}.", where: "take")
      end

      # @return [Hash] one take that can be played and exported
      # @raise [NotFound] as find   @raise [Invalid] if it is unreadable
      def readable(take)
        found = find(take)
        return found unless found["state"] == Formats::TakeManifest::UNREADABLE

        raise Invalid.new("#{found['name']} cannot be read. #{found['note']}", where: "take")
      end

      # Brings the database in line with the folders.
      def reconcile
        changed = @reconciling.synchronize do
          takes = all
          next 0 if takes.equal?(@reconciled)

          @store.reconcile(takes.map { |take| [take["folder"], take.except("folder")] }).tap { @reconciled = takes }
        end
        @on_change.call if changed.positive?
      end

      private

      def follow
        from = Runtime::Clock.now
        reconcile
        @wake.wait([EVERY, REST * (Runtime::Clock.now - from)].max)
      end

      # The longest copy of each, and of equal ones the first.
      def found
        first = copies_in(@folder)
        mirrors = [@mirror, *first.map { |take| take.dig("mirror", "folder") }].compact.uniq - [@folder]
        # A disk that somebody else has filled hides none of ours.
        copies = first + mirrors.flat_map { |root| copies_in(root).reject { |take| take["state"] == Formats::TakeManifest::UNREADABLE } }
        versions = [mirrors, *@indexes.map { |root, index| [root, index.version] }]
        return @found if @versions == versions

        @versions = versions
        @found = copies.group_by { |take| take["id"] }.values.map { |same| same.max_by { |take| [take["frames"], take["state"] == "complete" ? 1 : 0] } }
          .sort_by.with_index { |take, at| [-take["number"], at] }.freeze
      end

      # None of a disk that is gone.
      def copies_in(root)
        index = @indexes[root] ||= Runtime::FolderIndex.new(root, Formats::TakeManifest::FILE, wanted: Formats::TakeManifest::TAKE) do |folder|
          Formats::TakeManifest.told(folder).merge("folder" => folder).freeze if File.directory?(folder)
        end
        index.all
      rescue SystemCallError
        []
      end
    end
  end
end
