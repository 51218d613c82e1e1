# frozen_string_literal: true

module Loomshuttle
  module Checks
    # A stereo track on lanes that are not an odd/even pair. Other programs and desks would split it.
    module StereoLanes
      WORDS = { inputs: "card sends", outputs: "card returns" }.freeze

      def self.findings(context)
        context.show.tracks.values.select(&:stereo).flat_map do |track|
          WORDS.keys.reject { |side| fits?(track[side]) }.map { |side| finding(context.show, track, side) }
        end
      end

      class << self
        private

        def fits?(lanes) = lanes.empty? || (lanes.first.odd? && lanes.last == lanes.first + 1)

        def finding(show, track, side)
          points = track[side].map { |lane| side == :inputs ? Rig::Point.card_send(lane) : Rig::Point.card_return(lane) }
          Finding.new(id: "stereo-lanes/#{track.number}/#{side}", check: "stereo-lanes", severity: Finding::LOOK,
                      sentence: "#{show.title_of(track)} is stereo, but on #{WORDS[side]} #{track[side].join(' and ')}, which are not an odd/even pair.",
                      path: points, at: points, fix: fix(show, track, side))
        end

        # The neighbours that carry its left side already, if its right side can follow; on the way in the sends follow.
        def fix(show, track, side)
          taken = show.tracks.values.reject { |other| other.number == track.number }.flat_map { |other| other[side] }
          count = side == :inputs ? show.profile.sends : show.profile.returns
          starts = (1...count).step(2).reject { |lane| taken.include?(lane) || taken.include?(lane + 1) || (side == :inputs && occupied?(show, track, lane)) }
          start = starts.min_by { |lane| (lane - track[side].first).abs } or return
          lanes = [start, start + 1]
          Settings::Edit.set("Move #{show.title_of(track)} to #{WORDS[side]} #{lanes.join(' and ')}", settings(show, track, side, lanes))
        end

        # Sends of something else must stay where they are.
        def occupied?(show, track, lane) = [lane, lane + 1].any? { |one| show.sends[one].source && !track.inputs.include?(one) }

        def settings(show, track, side, lanes)
          moved = { "track/#{track.number}/#{side}" => lanes }
          return moved if side == :outputs

          sends = track.inputs.map { |lane| show.sends[lane] }
          emptied = (track.inputs - lanes).to_h { |lane| ["send/#{lane}/source", nil] }
          lanes.zip(sends).each { |lane, send| moved.merge!("send/#{lane}/source" => send.source&.name, "send/#{lane}/tap" => send.tap) }
          emptied.merge(moved)
        end
      end
    end
  end
end
