# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # Finished takes: found, described, marked, moved to the bin and back, and taken over from imports. A take that ended in its mirror is found
    # there.
    class Shelf
      # @param root [String] folder of all takes        @param numbers [Numbers]
      # @param playing [Proc] returns the id of the playing take, or nil   @param on_change [Proc] called after each change
      # @param mirror [Proc] returns the folder of second copies, or nil
      def initialize(root, numbers:, playing:, on_change:, mirror: -> {})
        @root, @numbers, @playing, @on_change, @mirror = root, numbers, playing, on_change, mirror
        @changing = Mutex.new # a manifest is read, changed and written by one thread at a time
      end

      # @param take [Integer, String] number or id
      # @return [Array(String, Hash)] its folder and manifest
      # @raise [Invalid] if there is no such take, it is still being captured, or is unreadable
      def find(take)
        found = any(take)
        raise Invalid.new("Take #{take} is still being captured.", where: "take") if found.last["state"] == "capturing"
        raise Invalid.new("Take #{found.last['name']} cannot be read. #{found.last['note']}", where: "take") if found.last["state"] == Formats::TakeManifest::UNREADABLE

        found
      end

      # @param changes [Hash] name, notes, colour, markers, tracks
      # @return [Hash] the changed manifest
      def change(take:, **changes) = changed { TakeChange.apply(*find(take), changes.transform_keys(&:to_s)) }

      # Moves a take into the bin, and its second copy into the bin beside that copy.
      def discard(take:)
        copies = copies(take)
        manifest = longest(copies).last
        raise Invalid.new("Take #{take} is still being captured.", where: "take") if manifest["state"] == "capturing"
        raise Invalid.new("Take #{manifest['number']} is being played; stop it first.", where: "take") if @playing.call == manifest["id"]

        changed do
          copies.map(&:first).each { |folder| TakeChange.discard(File.dirname(folder), folder) }
          { "discarded" => manifest["number"] }
        end
      end

      # @return [Array<Hash>] takes in the bin
      def bin = roots.flat_map { |root| TakeChange.binned(root) }.group_by { |take| take["id"] }.values.map { |copies| copies.max_by { |take| take["frames"] } }

      # Restores a take and its second copy from the bin.
      # @raise [Invalid]
      def restore(number:)
        found = roots.select { |root| TakeChange.binned(root).any? { |take| take["number"] == number } }
        raise Invalid.new("There is no take #{number} in the bin.", where: "take") if found.empty?

        changed do
          found.each { |root| TakeChange.restore(root, number) }
          { "restored" => number }
        end
      end

      # @return [Hash] how many takes were deleted
      def empty_bin
        takes = bin.size
        changed do
          roots.each { |root| TakeChange.empty(root) }
          { "deleted" => takes }
        end
      end

      # Adopts a take made elsewhere, e.g. from delivered files.
      # @param folder [String] inside the folder of all jobs
      # @return [Hash] its manifest
      def adopt(folder:) = changed { TakeChange.adopt(@root, folder, @numbers.next(roots)) }

      # Stores the levels of a recovered take, which is complete from now on.
      # @param folder [String] of the take   @param levels [Array<Hash>] number of a track, peak_dbfs and rms_dbfs; other tracks stay as they are
      def measured(folder, levels)
        changed do
          manifest = Manifest.read(folder) or next # in the bin by now
          by_number = levels.to_h { |one| [one["number"], one] }
          tracks = manifest["tracks"].map { |track| track.merge(by_number.fetch(track["number"], {})) }
          Manifest.write(folder, manifest.except(Recovery::UNMEASURED).merge("tracks" => tracks))
        end
      end

      private

      def roots = [@root, *mirrors(Manifest.all(@root))]

      # Where second copies were made before, others may still be.
      # @param takes [Array<Array(String, Hash)>] those in the first folder
      def mirrors(takes)
        [@mirror.call, *takes.map { |_, manifest| manifest.dig("mirror", "folder") }].compact.uniq.select { |root| root != @root && Dir.exist?(root) }
      end

      # @return [Array<Array(String, Hash)>] folder and manifest of each copy
      def copies(take)
        takes = Manifest.all(@root)
        all = takes + mirrors(takes).flat_map { |root| Manifest.all(root) }
        first = all.find { |_, manifest| [manifest["id"], manifest["number"]].include?(take) }
        raise Invalid.new("There is no take #{Text.readable(take, most: 60)}.", where: "take") unless first

        all.select { |_, manifest| manifest["id"] == first.last["id"] }
      end

      # Of equal ones the first.
      def longest(copies) = copies.max_by { |_, manifest| manifest["frames"] }
      def any(take) = longest(copies(take))

      def changed(&) = @changing.synchronize(&).tap { @on_change.call }
    end
  end
end
