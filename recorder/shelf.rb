# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # The takes that are over: found, given words and markers, thrown into the bin and taken out of it, taken over from others.
    class Shelf
      # @param root [String] folder of all takes
      # @param playing [Proc] id of the take that plays, or nil   @param on_change [Proc] called when something has changed
      def initialize(root, playing:, on_change:)
        @root, @playing, @on_change = root, playing, on_change
      end

      # @param take [Integer, String] number or id
      # @return [Array(String, Hash)] its folder and manifest
      # @raise [Invalid] when there is none, or it is still captured
      def find(take)
        found = Manifest.all(@root).find { |_, manifest| [manifest["id"], manifest["number"]].include?(take) }
        raise Invalid.new("There is no take #{take}.", where: "take") unless found
        raise Invalid.new("Take #{take} is still being captured.", where: "take") if found.last["state"] == "capturing"

        found
      end

      # @param changes [Hash] name, notes, colour, markers
      # @return [Hash] its manifest then
      def change(take:, **changes) = changed { TakeChange.apply(*find(take), changes.transform_keys(&:to_s)) }

      # Moves a take into the bin.
      def discard(take:)
        folder, manifest = find(take)
        raise Invalid.new("Take #{manifest['number']} is being played; stop it first.", where: "take") if @playing.call == manifest["id"]

        changed { TakeChange.discard(@root, folder) && { "discarded" => manifest["number"] } }
      end

      # @return [Array<Hash>] what lies in the bin
      def bin = TakeChange.binned(@root)

      def restore(number:) = changed { TakeChange.restore(@root, number) && { "restored" => number } }
      def empty_bin = changed { { "deleted" => TakeChange.empty(@root) } }

      # Takes over a take that others have made, such as of delivered files.
      # @param folder [String]
      # @return [Hash] its manifest
      def adopt(folder:) = changed { TakeChange.adopt(@root, folder) }

      private

      def changed = yield.tap { @on_change.call }
    end
  end
end
