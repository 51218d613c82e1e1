# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module Web
    # Finds where a section begins: at a given sample, at the nearest bar, or at the nearest zero crossing of all stems.
    module SongSections
      # A zero is looked for within so much (seconds).
      AROUND = 0.02
      SNAPS = %w[bar zero sample].freeze

      class << self
        # @param entry [SongEntry]   @param sample [Integer]   @param snap [String] of SNAPS   @param key [Integer, nil] of the section to move; nil adds one
        # @return [Array<Hash>] the song's sections
        # @raise [Invalid]
        def at(entry, sample, snap:, key: nil)
          raise Invalid.new("The song ends before that.", where: "sample") if sample >= entry.data["frames"]

          sample = zero(entry, sample) if snap == "zero"
          Songs::Section.at(entry.data, sample, key: key, near: snap == "bar" ? entry.data["frames"] : 0)
        end

        private

        def zero(entry, sample)
          from = [sample - (AROUND * entry.data["rate"]).round, 0].max
          sound = sum(entry, from, (2 * AROUND * entry.data["rate"]).round)
          from + Audio::ZeroCrossing.nearest(sound, sample - from)
        end

        # All that sounds, together.
        def sum(entry, from, frames)
          entry.data["stems"].reject { |stem| stem["mute"] }.each_with_object(Numo::DFloat.zeros(frames)) do |stem, all|
            part = part(File.join(entry.folder, stem["file"]), from, frames)
            all[0...part.size] += part if part
          end
        end

        # What cannot be read does not sound.
        def part(path, from, frames)
          reader = Formats::Wav::Reader.new(path)
          block = reader.read(from, frames)
          block.empty? ? nil : Numo::DFloat.cast(block).sum(axis: 1)
        rescue SystemCallError, Invalid
          nil
        ensure
          reader&.close
        end
      end
    end
  end
end
