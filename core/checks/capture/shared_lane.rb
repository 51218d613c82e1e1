# frozen_string_literal: true

module Loomshuttle
  module Checks
    # Two tracks on one lane. On an input both record the same source; on an output both are summed into one return.
    module SharedLane
      SIDES = { inputs: ["card send", "write the same source"], outputs: ["card return", "are summed on the return"] }.freeze

      def self.findings(context)
        SIDES.keys.flat_map { |side| shared(context.show, side).map { |lane, tracks| finding(context.show, side, lane, tracks) } }
      end

      class << self
        private

        def shared(show, side)
          users = show.tracks.values.each_with_object(Hash.new { |hash, lane| hash[lane] = [] }) do |track, found|
            track[side].each { |lane| found[lane] << track }
          end
          users.select { |_, tracks| tracks.size > 1 && !(side == :outputs && declared?(tracks)) }
        end

        # Sharing a return on purpose: more instruments than channels.
        def declared?(tracks) = tracks.first.shares != "" && tracks.map(&:shares).uniq.size == 1

        def finding(show, side, lane, tracks)
          words, effect = SIDES.fetch(side)
          point, way = side == :inputs ? [Rig::Point.card_send(lane), "in"] : [Rig::Point.card_return(lane), "out"]
          names = tracks.map { |track| show.title_of(track) }
          Finding.new(id: "shared-lane/#{side}/#{lane}", check: "shared-lane", severity: Finding::BLOCKS,
                      sentence: "#{names[..-2].join(', ')} and #{names.last} share #{words} #{lane}, so they #{effect}.",
                      path: [point] + tracks.map { |track| Rig::Point.track(track.number, way) }, at: [point],
                      fix: move(show, side, tracks.last) || (declare(show, tracks) if side == :outputs))
        end

        # The later track goes to the free lane nearest to its own number.
        def move(show, side, track)
          count = side == :inputs ? show.profile.sends : show.profile.returns
          taken = show.tracks.values.reject { |other| other.number == track.number }.flat_map { |other| other[side] }
          starts = track.stereo ? (1...count).step(2).to_a : (1..count).to_a
          free = starts.reject { |lane| taken.intersect?((lane...(lane + track.width)).to_a) }
          free = free.select { |lane| show.sends[lane].source } if side == :inputs && free.any? { |lane| show.sends[lane].source }
          lane = free.min_by { |candidate| (candidate - track.number).abs } or return
          move_to(show, track, side, (lane...(lane + track.width)).to_a)
        end

        def declare(show, tracks)
          name = Steps::PlayTo.shared_as(show, tracks.first)
          Settings::Edit.set("Allow the shared return", tracks.to_h { |track| ["track/#{track.number}/shares", name] })
        end

        def move_to(show, track, side, lanes)
          Settings::Edit.set("Move #{show.title_of(track)} to #{SIDES[side].first} #{lanes.join(' and ')}", "track/#{track.number}/#{side}" => lanes)
        end
      end
    end
  end
end
