# frozen_string_literal: true

require "json"
require "sequel"

module Loomshuttle
  module Web
    # The takes as their folders tell, followed into the database. Its thread looks when told to, and every few seconds,
    # so that takes made while the database was away appear afterwards.
    class TakeShelf
      MANIFEST = "take.json"
      FORMAT = "loomshuttle-take/1"
      EVERY = 2

      # @param folder [String] of all takes
      # @param store [Store::Takes]
      # @param on_change [Proc] called when takes have come, changed or gone
      def initialize(folder, store, on_change:)
        @folder, @store, @on_change = folder, store, on_change
        @wake = Queue.new
      end

      def start
        @thread = Thread.new { follow until @stopped }
      end

      def stop
        @stopped = true
        look
        @thread&.join(2) || @thread&.kill
      end

      # Looks at once.
      def look = @wake << true

      # @return [Array<Hash>] manifests with "folder", newest first
      # @raise [Sequel::DatabaseError] when the database is away
      def all = @store.all

      # @return [Hash] one take
      # @raise [Invalid] when there is none of that number or id
      def find(take)
        all.find { |one| one["id"] == take.to_s || one["number"].to_s == take.to_s } or
          raise Invalid.new("There is no take #{take}.", where: "take")
      end

      # Follows the folders now.
      def reconcile
        changed = @store.reconcile(found)
        @on_change.call if changed.positive?
      end

      private

      def follow
        reconcile
      rescue Sequel::Error, SystemCallError => e
        warn "Takes could not be followed yet: #{e.message.lines.first&.strip}" unless e.message == @last_trouble
        @last_trouble = e.message
      ensure
        wait
      end

      def wait
        deadline = Process.clock_gettime(Process::CLOCK_MONOTONIC) + EVERY
        sleep(0.05) until @stopped || !@wake.empty? || Process.clock_gettime(Process::CLOCK_MONOTONIC) > deadline
        @wake.clear
      end

      def found
        return [] unless Dir.exist?(@folder)

        Dir.children(@folder).sort.filter_map do |entry|
          folder = File.join(File.expand_path(@folder), entry)
          manifest = JSON.parse(File.read(File.join(folder, MANIFEST)))
          [folder, manifest] if manifest["format"] == FORMAT
        rescue SystemCallError, JSON::ParserError
          nil
        end
      end
    end
  end
end
