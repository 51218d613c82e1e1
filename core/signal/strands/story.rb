# frozen_string_literal: true

module Loomshuttle
  module Signal
    # A path hop by hop for people: the place, what happens there, the setting that causes it, and the gain and delay so far.
    class Story
      Hop = Value.define(:point, :label, :text, :gain_db, :delay, :total_gain_db, :total_delay, :setting, :live)
      # Ways through one point.
      MOST = 12

      # @param show [Settings::Show]   @param graph [Graph] of the show
      # @param levels [Levels] for the gains along the path
      def initialize(show, graph, levels)
        @show, @graph, @levels = show, graph, levels
      end

      # @param strand [Strand]
      # @return [Array<Hop>] from the socket to the channel that plays the take; delays in samples, gains in dB
      def of_strand(strand)
        points = points_of(strand)
        return [] if points.empty?

        joins = points.each_cons(2).filter_map { |from, to| @graph.from(from).find { |join| join.to == to } }
        joins.empty? ? [hop(points.first, nil, [])] : of_joins(joins)
      end

      # Every path through a point, from its sources to its ends.
      # @param point [Rig::Point] a socket, channel, lane, track or output; a channel or mix without a tap stands for all its taps
      # @return [Array<Array<Hop>>] at most MOST paths
      def through(point)
        starts = @graph.points.select { |one| one == point || one.base == point }
        ways = starts.flat_map do |start|
          ups = Trace.up(@graph, start).map(&:joins)
          downs = Trace.down(@graph, start).map(&:joins)
          (ups.empty? ? [[]] : ups).product(downs.empty? ? [[]] : downs).map { |up, down| up + down }
        end
        longest(ways.reject(&:empty?).uniq).first(MOST).map { |joins| of_joins(joins) }
      end

      # @param joins [Array<Join>] a path, at least one
      # @return [Array<Hop>]
      def of_joins(joins) = [hop(joins.first.from, nil, [])] + joins.each_index.map { |i| hop(joins[i].to, joins[i], joins[0..i]) }

      private

      # A way that is a part of another one tells nothing new.
      def longest(ways) = ways.reject { |way| ways.any? { |other| other.size > way.size && (way - other).empty? } }

      def points_of(strand)
        taps = strand.channel && strand.tap ? taps_up_to(strand) : channel_head(strand)
        track = strand.track && @show.tracks[strand.track]
        lane = strand.track_lane
        [*played_into(strand), strand.socket, lane_behind(strand), *taps, strand.send_point, track&.points("in")&.at(lane.to_i),
         strand.return && track.points("out")[lane], strand.return_point, strand.home.first&.at("channel-in")].compact
      end

      # Between a box's socket and the channel lies the lane of its link.
      def lane_behind(strand)
        lane = strand.socket && SheetWay.ports(@show, strand).first
        lane == strand.socket ? nil : lane
      end

      # What is cabled into its socket.
      def played_into(strand) = strand.socket ? @graph.into(strand.socket).map(&:from).select(&:playback?) : []

      def channel_head(strand) = [strand.channel&.at("preamp")].compact

      # The taps that the signal passes inside the channel on its way to the one that is sent.
      def taps_up_to(strand)
        taps = @show.profile.taps_of(strand.channel)
        taps = taps.drop(taps.index("channel-in").to_i) if strand.socket&.card?
        taps.take(taps.index(strand.tap).to_i + 1).map { |tap| strand.channel.at(tap) }
      end

      def hop(point, join, so_far)
        Hop.new(point: point, label: Rig::Label.for(point), text: text(point, join), gain_db: join ? @levels.gain_db(join) : 0,
                delay: join ? join.delay : 0, total_gain_db: @levels.along(so_far), total_delay: so_far.sum(&:delay), setting: join&.setting, live: join ? join.live : true)
      end

      def text(point, join)
        case point.device
        when "box" then "socket of #{where(point)}"
        when "link" then link_text(point)
        when "track" then track_text(point)
        when "recorder" then "mixed by the recorder"
        when "interface" then playback_text(point)
        when "card" then point.card_send? ? "to the recorder" : "from the recorder"
        else desk_text(point, join)
        end
      end

      def desk_text(point, join)
        return socket_text(point) if @show.layout.source(point)
        return channel_text(point, join) if point.channel?
        return "mix of the desk" if point.mix?

        point.output? ? output_text(point) : "output socket of the desk"
      end

      def output_text(point)
        source = @show.outputs[point.number]&.source
        source ? "carries #{@show.label(source)}" : "carries nothing"
      end

      def playback_text(point)
        titles = @show.roles_on(point.number).map(&:title)
        titles.empty? ? "output of playback" : "plays #{titles.join(', ')}"
      end

      def socket_text(point) = @show.layout.source(point).missing || "socket on the desk"

      def where(point)
        spot = @show.boxes[point.letter].spot
        spot ? "the box stage #{spot}".sub("stage centre", "at stage centre") : "the stage box"
      end

      def link_text(point)
        return @show.layout.sockets_of_outlet(point).any? ? "to a box" : "no box takes this lane" if point.kind == "down"

        @show.layout.source(point)&.missing || "to the desk"
      end

      def channel_text(point, join)
        channel = @show.channel_at(point)
        return preamp_text(channel) if point.tap == "preamp"
        return "#{channel.title}, take side" if join&.from&.card_return?
        return "set by the desk's mix" if join && @levels.gain_db(join).nil?

        join && !join.live ? "not heard: the channel is on take" : "as it comes"
      end

      def preamp_text(channel)
        Settings::Blocks.single(@show).include?(channel.number) ? "#{channel.title}, patched singly through a free slot" : channel.title
      end

      def track_text(point)
        track = @show.tracks[point.number]
        return "#{@show.title_of(track)}, played back" if point.kind == "out"

        "#{@show.title_of(track)}, #{track.armed ? 'armed' : 'not armed'}"
      end
    end
  end
end
