# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # The note of a recovered take.
    module RecoveryWords
      # Tracks that are named; more are counted.
      NAMED = 4

      # @param manifest [Hash] as found
      # @param kept [Array<Hash>] tracks whose files were recovered   @param lost [Array<Hash>] those without a usable file
      # @param frames [Integer] length of the take
      # @return [String]
      def self.of(manifest, kept, lost, frames)
        rate = manifest["rate"].to_f
        [manifest["rebuilt"],
         format("The recorder ended while capturing; %<seconds>.1f s of %<tracks>d tracks were recovered.", seconds: frames / rate, tracks: kept.size),
         *silent(kept, rate),
         ("No sound was on the disk for #{names(lost)}." if lost.any?),
         *TakeBreaks.words(manifest["breaks"], manifest["rate"])].compact.join(" ")
      end

      class << self
        private

        # Tracks that end at the same place, in one sentence.
        def silent(kept, rate)
          kept.select { |track| track["silent_from"] }.group_by { |track| track["silent_from"] }.sort.first(NAMED).map do |from, tracks|
            format("%<names>s: silence added from %<seconds>.2f s to the end.", names: names(tracks), seconds: from / rate)
          end
        end

        def names(tracks)
          named = tracks.first(NAMED).map { |track| track["name"] }.join(", ")
          tracks.size > NAMED ? "#{named} and #{tracks.size - NAMED} more" : named
        end
      end
    end
  end
end
