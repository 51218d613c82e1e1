# frozen_string_literal: true

module Loomshuttle
  module Formats
    # The returns for a take of another show: its tracks use the returns of the tracks with the same names. Track numbers mean nothing there.
    module TrackMatching
      # matched: track number of the take => track of this show; missing: names of tracks that find none
      Match = Value.define(:matched, :missing)

      class << self
        # @param taken [Array<Hash>] tracks of a take's manifest
        # @param known [Array<#name, #outputs>] tracks of this show; if two share a name, the first counts
        # @return [Match] each track of this show is matched with one track of the take at most
        def of(taken, known)
          free = known.reject { |track| track.outputs.empty? || plain(track.name).empty? }.reverse.to_h { |track| [plain(track.name), track] }
          matched = taken.to_h { |track| [track["number"], free.delete(plain(track["name"]))] }.compact
          Match.new(matched: matched, missing: taken.reject { |track| matched.key?(track["number"]) }.map { |track| track["name"] })
        end

        # @param manifest [Hash]   @param project [String] name of this show
        # @return [Boolean] whether a take belongs to another show; false if either has no name
        def other_show?(manifest, project)
          theirs, ours = [manifest["project"], project].map { |name| name.to_s.strip }
          !theirs.empty? && !ours.empty? && theirs != ours
        end

        private

        def plain(name) = name.to_s.unicode_normalize(:nfc).downcase.split.join(" ")
      end
    end
  end
end
