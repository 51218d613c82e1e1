# frozen_string_literal: true

module Loomshuttle
  module Signal
    # The strand sheet to draw: five rails of ports, threads between neighbouring rails, and loose ends. A row is the same place on all rails, so a
    # straight patch gives straight threads.
    class Sheet
      RAILS = %w[socket channel send track return].freeze

      # id is the name of its Rig::Point; number is what edits and choices of the port take.
      # missing: why the rig lacks it, or nil; block: bracket that it stands in, or nil.
      Port = Value.define(:id, :rail, :row, :number, :mark, :name, :note, :dye, :free, :missing, :block, :strands)
      Thread = Value.define(:from, :to, :dye, :straight, :strands)
      # A port in use whose thread ends: side is "left" (nothing arrives) or "right" (nothing follows).
      Loose = Value.define(:port, :side)

      NONE = [].freeze
      private_constant :NONE

      attr_reader :ports, :threads, :loose

      # @param show [Settings::Show]
      # @param strands [Array<Strand>] of the same show
      # @param before [Sheet, nil] of the previous version; its paths and threads are reused if the strands are the same list
      def initialize(show, strands, before: nil)
        @show, @strands = Settings::SharedPreamp.settled(show), strands
        @leaders = Settings::SharedPreamp.leaders(@show)
        @profile = show.profile
        before = nil unless strands.equal?(before&.strands)
        follow(before)
        @single = Settings::Blocks.single(show).to_h { |number| [number, true] }
        @ports = RAILS.flat_map { |rail| send(:"#{rail}_ports") }
        draw(before)
        freeze
      end

      protected

      # strands by which it was made; ways: strand => ids of its ports; by_port: port => strands; rows: port => row
      attr_reader :strands, :ways, :by_port, :rows

      private

      def follow(before)
        @ways = before ? before.ways : @strands.to_h { |strand| [strand.id, SheetWay.ports(@show, strand).map { |point| point&.name }] }
        @by_port = before ? before.by_port : index_by_port
        @dyes = @ways.keys.zip(@strands).to_h { |id, strand| [id, @show.channel_at(strand.channel)&.colour || "iron"] }
      end

      def draw(before)
        @rows = @ports.to_h { |port| [port.id, port.row] }
        @threads = before && before.rows == @rows ? dyed(before.threads) : make_threads
        @loose = before ? before.loose : make_loose
      end

      def dyed(threads) = threads.map { |thread| @dyes[thread.strands.first].then { |dye| dye == thread.dye ? thread : thread.with(dye: dye) } }

      def index_by_port
        @ways.each_with_object({}) { |(strand, ids), index| ids.each { |id| (index[id] ||= []) << strand if id } }
      end

      def port(rail, row, point, number, mark, name: "", note: "", dye: nil, missing: nil, block: nil)
        through = @by_port.fetch(point.name, NONE)
        Port.new(id: point.name, rail: rail, row: row, number: number, mark: mark, name: name, note: note,
                 dye: dye || @dyes.fetch(through.first, "iron"), free: through.empty?, missing: missing, block: block, strands: through)
      end

      # Sources that are there, and those that a channel names although they are not; the card's only where one is used.
      def shown_sources
        @show.layout.sources.select { |source| @by_port.key?(source.point.name) || !(source.missing || source.point.card?) }
      end

      def socket_ports
        heard = @show.channels.values.select(&:stage).reverse.to_h { |channel| [channel.stage, channel] }
        shown_sources.map.with_index do |source, row|
          port("socket", row, source.point, @show.layout.number(source.point), source.mark, note: socket_note(source, heard[source.point]), missing: source.missing)
        end
      end

      def socket_note(source, channel)
        return "missing" if source.missing
        return "" if channel.nil? || source.point.card?

        channel.phantom ? "#{Text.decibels(channel.gain)} 48V" : Text.decibels(channel.gain)
      end

      def channel_ports
        SheetMarks.of(@profile).map.with_index do |mark, row|
          channel = @show.channels[mark.number]
          port("channel", row, mark.base, mark.number, mark.text, name: channel.name, dye: channel.colour, note: channel_note(channel), block: mark.block)
        end
      end

      def channel_note(channel)
        single = @single[channel.number]
        leader = @leaders[channel.number]
        [("take" if channel.position == "take"), ("with #{leader.number}" if leader && leader != channel), ("slot" if single), ("fixed" if channel.fixed),
         ("pair" if channel.paired)].compact.join(" · ")
      end

      def send_ports
        @show.sends.values.map do |send|
          mix = send.source&.mix? ? Rig::Label.for(send.source) : ""
          port("send", send.lane - 1, Rig::Point.card_send(send.lane), send.lane, send.lane.to_s, name: mix, note: send.source ? Rig::Label::TAPS.fetch(@show.tap_of(send)) : "")
        end
      end

      def track_ports
        lanes = shown_tracks.flat_map { |track| track.points("in").map { |point| [track, point] } }
        last_used = lanes.rindex { |track, _| track.used? || !track.name.empty? } || 0
        lanes.first([@profile.sends, last_used + 1].max).map.with_index do |(track, point), row|
          port("track", row, point, track.number, "#{track.number}#{point.side&.upcase}", name: track.used? ? @show.title_of(track) : track.name,
                                                                                          dye: track.used? ? @show.dye_of(track) : nil, note: track.armed ? "armed" : "")
        end
      end

      # The track behind a stereo one gives its row to the right side while nothing is planned for it, so that the tracks
      # behind them stay beside the lanes of their number.
      def shown_tracks
        @show.tracks.values.reject { |track| track.free? && @show.tracks[track.number - 1]&.stereo }
      end

      def return_ports
        heard = hearing
        (1..@profile.returns).map do |lane|
          port("return", lane - 1, Rig::Point.card_return(lane), lane, lane.to_s, note: heard.key?(lane) ? "↩ #{heard[lane].join(', ')}" : "")
        end
      end

      # Card return => channels that hear it on take, in short.
      def hearing
        SheetMarks.of(@profile).each_with_object({}) do |mark, found|
          take = @show.channels[mark.number].take or next
          (found[take.number + mark.side] ||= []) << mark.words
        end
      end

      def make_threads
        ends = @ways.each_with_object({}) do |(strand, ids), found|
          (1...ids.size).each { |at| ((found[ids[at - 1]] ||= {})[ids[at]] ||= []) << strand if ids[at - 1] && ids[at] }
        end
        ends.flat_map { |from, to_all| to_all.map { |to, through| thread(from, to, through) } }
      end

      def thread(from, to, through)
        Thread.new(from: from, to: to, dye: @dyes.fetch(through.first), straight: @rows[from] == @rows[to], strands: through)
      end

      def make_loose
        @ways.values.flat_map do |ids|
          used = ids.each_index.select { |i| ids[i] }
          next NONE if used.empty? || (used.first.zero? && used.last == RAILS.size - 1)

          ends = []
          ends << Loose.new(port: ids[used.first], side: "left") if used.first.positive? && !SheetWay.mix?(ids)
          ends << Loose.new(port: ids[used.last], side: "right") if used.last < RAILS.size - 1
          ends
        end.uniq
      end
    end
  end
end
