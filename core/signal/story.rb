# frozen_string_literal: true

module Loomshuttle
  module Signal
    # A way told hop by hop for a person: where, what happens there, by which setting, and how much gain and delay have
    # come together by then.
    module Story
      Hop = Value.define(:point, :label, :text, :gain_db, :delay, :total_gain_db, :total_delay, :setting, :live)

      # @param show [Patch::Show]
      # @param strand [Strand]
      # @param graph [Graph]
      # @return [Array<Hop>] from the socket to the channel that hears the take; delays in samples, gains in dB
      def self.of_strand(show, graph, strand)
        points = points_of(show, strand)
        return [] if points.empty?

        joins = points.each_cons(2).filter_map { |from, to| graph.from(from).find { |join| join.to == to } }
        first = hop(show, points.first, nil, [])
        [first] + joins.each_index.map { |i| hop(show, joins[i].to, joins[i], joins[0..i]) }
      end

      class << self
        private

        def points_of(show, strand)
          taps = strand.channel && strand.tap ? taps_up_to(show, strand) : channel_head(strand)
          track = strand.track && show.tracks[strand.track]
          lane = strand.track_lane
          [strand.socket, *taps, strand.send && "card/send/#{strand.send}", track&.points("in")&.at(lane.to_i),
           strand.return && track.points("out")[lane], strand.return && "card/return/#{strand.return}",
           strand.home.first && "#{strand.home.first}@channel-in"].compact
        end

        def channel_head(strand) = strand.channel ? ["#{strand.channel}@preamp"] : []

        # The taps that the signal passes inside the channel on its way to the one that is sent.
        def taps_up_to(show, strand)
          taps = show.profile.taps_of(strand.channel)
          taps.take(taps.index(strand.tap) + 1).map { |tap| "#{strand.channel}@#{tap}" }
        end

        def hop(show, point, join, so_far)
          gains = so_far.map(&:gain_db)
          Hop.new(point: point, label: Rig::Label.for(point), text: text(show, point, join), gain_db: join ? join.gain_db : 0,
                  delay: join ? join.delay : 0, total_gain_db: gains.include?(nil) ? nil : gains.sum,
                  total_delay: so_far.sum(&:delay), setting: join&.setting, live: join ? join.live : true)
        end

        def text(show, point, join)
          return "socket on the desk" if point.match?(%r{\Adesk/(in|line)/})
          return track_text(show, point) if point.start_with?("track/")
          return "comes in from the recorder" if point.start_with?("card/return/")
          return "leaves for the recorder" if point.start_with?("card/send/")

          channel_text(show, point, join)
        end

        def channel_text(show, point, join)
          channel = show.channel_at(point)
          return "mix of the desk" unless channel
          return channel.title if point.end_with?("@preamp")
          return "#{channel.title}, take side" if join&.from.to_s.start_with?("card/return/")
          return "set by the desk's mix" if join && join.gain_db.nil?

          join && !join.live ? "not heard: the channel is on take" : "as it comes"
        end

        def track_text(show, point)
          track = show.tracks[point.split("/")[1].to_i]
          return "#{track.title}, played back" if point.include?("/out")

          track.armed ? "#{track.title}, armed" : "#{track.title}, not armed"
        end
      end
    end
  end
end
