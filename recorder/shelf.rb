# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # The takes that are over: found, given words and markers, thrown into the bin and taken out of it, taken over from others. A take that
    # ended in its mirror is found there.
    class Shelf
      # @param root [String] folder of all takes
      # @param playing [Proc] id of the take that plays, or nil   @param on_change [Proc] called when something has changed
      # @param mirror [Proc] folder of second copies, or nil
      def initialize(root, playing:, on_change:, mirror: -> {})
        @root, @playing, @on_change, @mirror = root, playing, on_change, mirror
      end

      # @param take [Integer, String] number or id
      # @return [Array(String, Hash)] its folder and manifest
      # @raise [Invalid] when there is none, or it is still captured, or cannot be read
      def find(take)
        found = any(take)
        raise Invalid.new("Take #{take} is still being captured.", where: "take") if found.last["state"] == "capturing"
        raise Invalid.new("Take #{found.last['name']} cannot be read. #{found.last['note']}", where: "take") if found.last["state"] == Formats::TakeManifest::UNREADABLE

        found
      end

      # @param changes [Hash] name, notes, colour, markers
      # @return [Hash] its manifest then
      def change(take:, **changes) = changed { TakeChange.apply(*find(take), changes.transform_keys(&:to_s)) }

      # Moves a take into the bin, with its second copy.
      def discard(take:)
        folder, manifest = any(take)
        raise Invalid.new("Take #{take} is still being captured.", where: "take") if manifest["state"] == "capturing"
        raise Invalid.new("Take #{manifest['number']} is being played; stop it first.", where: "take") if @playing.call == manifest["id"]

        changed { TakeChange.discard(File.dirname(folder), folder) && { "discarded" => manifest["number"] } }
      end

      # @return [Array<Hash>] what lies in the bin
      def bin = roots.flat_map { |root| TakeChange.binned(root) }

      def restore(number:)
        root = roots.find { |one| TakeChange.binned(one).any? { |take| take["number"] == number } } || @root
        changed { TakeChange.restore(root, number) && { "restored" => number } }
      end

      def empty_bin = changed { { "deleted" => roots.sum { |root| TakeChange.empty(root) } } }

      # Takes over a take that others have made, such as of delivered files.
      # @param folder [String] in the folder of all jobs
      # @return [Hash] its manifest
      def adopt(folder:) = changed { TakeChange.adopt(@root, folder) }

      private

      def roots = [@root, @mirror.call].compact.select { |root| Dir.exist?(root) }

      # The longest copy of each, and of equal ones the first.
      def any(take)
        copies = roots.flat_map { |root| Manifest.all(root) }.select { |_, manifest| [manifest["id"], manifest["number"]].include?(take) }
        raise Invalid.new("There is no take #{Text.readable(take, most: 60)}.", where: "take") if copies.empty?

        id = copies.first.last["id"]
        copies.select { |_, manifest| manifest["id"] == id }.max_by { |_, manifest| manifest["frames"] }
      end

      def changed = yield.tap { @on_change.call }
    end
  end
end
