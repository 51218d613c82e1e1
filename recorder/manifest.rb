# frozen_string_literal: true

require "json"

module Loomshuttle
  module Recorder
    # The manifests of all takes in a folder (Formats::TakeManifest). Written whole each time, so that a reader never sees half of one.
    module Manifest
      FILE = Formats::TakeManifest::FILE
      # Says in a take's folder why it is left alone: mending it ended the recorder.
      ASIDE = ".aside"
      # Folders of takes begin with a number; others are none of ours.
      TAKE = /\A\d{1,7} /

      class << self
        # @param folder [String] the take's folder
        # @param data [Hash]
        def write(folder, data) = Runtime::Files.replace(File.join(folder, FILE), Formats::TakeManifest.dump(data))

        # @param frames [Integer] where the files really end
        # @return [Hash] the manifest with nothing behind that, and rests that reach to it
        def ending(data, frames)
          cut = ->(list) { list.to_a.select { |one| one["at"] < frames }.map { |one| one.merge("frames" => [one["frames"].to_i, frames - one["at"]].min) } }
          tracks = data["tracks"].map do |track|
            rests = track.fetch("rests", []).select { |at, _| at < frames }.map { |at, length| [at, [length || frames, frames - at].min] }
            track.merge("frames" => frames, "rests" => rests)
          end
          gaps = cut.call(data["gaps"])
          data.merge("frames" => frames, "tracks" => tracks, "gaps" => gaps, **total(data, gaps), "breaks" => data["breaks"].to_a.select { |one| one["at"] < frames },
                     "markers" => cut.call(data["markers"].to_a.select { |one| one["at"] <= frames }))
        end

        # @return [Hash, nil] nil where there is none, or none that can be read
        def read(folder)
          load(folder)
        rescue SystemCallError, Invalid
          nil
        end

        # @param root [String] folder of all takes
        # @return [Array<Array(String, Hash)>] each take's folder and manifest, oldest first; one that cannot be read hides no other and is
        #   told as what it is
        def all(root)
          return [] unless Dir.exist?(root)

          Dir.children(root).sort.filter_map do |entry|
            folder = File.join(root, entry)
            [folder, told(folder, entry)] if entry.b.match?(TAKE) && File.directory?(folder)
          end
        end

        private

        def load(folder)
          aside = File.join(folder, ASIDE)
          raise Invalid.new(Text.readable(File.read(aside), most: 400), where: folder) if File.exist?(aside)

          Formats::TakeManifest.check(Runtime::Files.read_json(File.join(folder, FILE)))
        end

        def told(folder, entry)
          load(folder)
        rescue Errno::ENOENT
          Formats::TakeManifest.unreadable(entry, "It has no #{FILE}; its files are left as they are in #{Text.readable(folder, most: 400)}.")
        rescue SystemCallError, Invalid => e
          Formats::TakeManifest.unreadable(entry, "It cannot be read: #{Text.readable(e.message, most: 400)} Its files are left as they are in #{Text.readable(folder, most: 400)}.")
        end

        # What was cut away from the list is no part of the total either.
        def total(data, gaps)
          before = data["gaps_total"] or return {}
          lost = data["gaps"].to_a.sum { |gap| gap["frames"] } - gaps.sum { |gap| gap["frames"] }
          { "gaps_total" => before.merge("count" => before["count"] - (data["gaps"].to_a.size - gaps.size), "frames" => before["frames"] - lost) }
        end
      end
    end
  end
end
