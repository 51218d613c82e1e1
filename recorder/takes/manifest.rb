# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # Reads and writes manifests of takes (Formats::TakeManifest). A manifest is always written as a whole, so a reader never sees half of one.
    module Manifest
      FILE = Formats::TakeManifest::FILE
      ASIDE = Formats::TakeManifest::ASIDE

      class << self
        # @param folder [String] the take's folder
        # @param data [Hash]
        def write(folder, data) = Runtime::Files.replace(File.join(folder, FILE), Formats::TakeManifest.dump(data))

        # @return [Array<Array(String, Hash)>] as Formats::TakeManifest.all
        def all(root) = Formats::TakeManifest.all(root)

        # @return [Hash, nil] nil if it is missing or unreadable
        def read(folder)
          Formats::TakeManifest.read(folder)
        rescue SystemCallError, Invalid
          nil
        end

        # @param frames [Integer] actual length of the files
        # @return [Hash] the manifest cut to that length, with open pauses ended there
        def ending(data, frames)
          cut = ->(list, last) { list.to_a.select { |one| one["at"] <= last }.map { |one| one.merge("frames" => [one["frames"].to_i, frames - one["at"]].min) } }
          tracks = data["tracks"].map do |track|
            rests = track.fetch("rests", []).select { |at, _| at < frames }.map { |at, length| [at, [length || frames, frames - at].min] }
            track.merge("frames" => frames, "rests" => rests)
          end
          gaps = cut.call(data["gaps"], frames - 1)
          data.merge("frames" => frames, "tracks" => tracks, "gaps" => gaps, **total(data, gaps), "breaks" => data["breaks"].to_a.select { |one| one["at"] < frames },
                     "markers" => cut.call(data["markers"], frames)) # a marker may stand at the very end
        end

        private

        # What was cut away from the list is not part of the total either.
        def total(data, gaps)
          before = data["gaps_total"] or return {}
          lost = data["gaps"].to_a.sum { |gap| gap["frames"] } - gaps.sum { |gap| gap["frames"] }
          { "gaps_total" => before.merge("count" => before["count"] - (data["gaps"].to_a.size - gaps.size), "frames" => before["frames"] - lost) }
        end
      end
    end
  end
end
