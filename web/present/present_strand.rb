# frozen_string_literal: true

module Loomshuttle
  module Web
    # A strand in the terms of the API (schema Strand).
    module PresentStrand
      # @param show [Settings::Show]   @param strand [Signal::Strand]
      # @return [Hash]
      def self.of(show, strand)
        channel = show.channel_at(strand.channel)
        track = strand.track && show.tracks[strand.track]
        { id: strand.id, name: channel&.title || (strand.channel ? show.label(strand.channel) : track && show.title_of(track)).to_s,
          dye: channel&.colour || "iron", socket: strand.socket, channel: strand.channel, channel_number: channel&.number,
          position: channel&.position, send: strand.send, tap: strand.tap, track: strand.track, track_name: track && show.title_of(track),
          armed: track&.armed, return: strand.return, home: strand.home, comes_home: strand.comes_home? }
      end
    end
  end
end
