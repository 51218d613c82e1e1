# frozen_string_literal: true

module Loomshuttle
  module Signal
    # The strand sheet as something to draw: five rails of ports, the threads between neighbouring rails, and the loose
    # ends. Rows are places on a rail, so a straight patch makes straight threads.
    class Sheet
      RAILS = %w[socket channel send track return].freeze

      # id is "rail/number" (and side); number is what edits and choices of the port take.
      Port = Value.define(:id, :rail, :row, :number, :mark, :name, :note, :dye, :free, :strands)
      Thread = Value.define(:from, :to, :dye, :straight, :strands)
      # A port in use whose thread ends: side is "left" (nothing arrives) or "right" (nothing follows).
      Loose = Value.define(:port, :side)

      attr_reader :ports, :threads, :loose

      # @param show [Patch::Show]
      # @param strands [Array<Strand>] of the same show
      def initialize(show, strands)
        @show = show
        @profile = show.profile
        @strands = strands
        @ways = strands.to_h { |strand| [strand.id, SheetWay.ports(show, strand)] }
        @by_port = index_by_port
        @ports = RAILS.flat_map { |rail| send(:"#{rail}_ports") }
        @rows = @ports.to_h { |port| [port.id, port.row] }
        @threads = make_threads
        @loose = make_loose
        freeze
      end

      private

      def index_by_port
        @ways.each_with_object(Hash.new { |hash, id| hash[id] = [] }) do |(strand, ids), index|
          ids.compact.each { |id| index[id] |= [strand] }
        end
      end

      def port(rail, row, id, number, mark, name: "", note: "", dye: nil)
        through = @by_port.fetch(id, [])
        Port.new(id: id, rail: rail, row: row, number: number, mark: mark, name: name, note: note,
                 dye: dye || dye_of(through.first), free: through.empty?, strands: through)
      end

      def dye_of(strand_id)
        @dyes ||= @strands.to_h { |strand| [strand.id, @show.channel_at(strand.channel)&.colour] }
        @dyes[strand_id] || "iron"
      end

      def socket_ports
        @profile.input_sockets.map.with_index do |point, row|
          gain = @show.channels.values.find { |channel| channel.stage == point }&.gain
          port("socket", row, point, row + 1, Rig::Label.for(point), note: gain ? "#{format('%+d', gain).tr('-', '−')} dB" : "")
        end
      end

      def channel_ports
        @profile.all_channel_points.map.with_index do |base, row|
          channel = @show.channel_at(base)
          _, _, number, side = base.split("/")
          port("channel", row, base, channel.number, [number, side&.upcase].join, name: channel.name, dye: channel.colour,
                                                                                  note: channel.position == "take" ? "take" : "")
        end
      end

      def send_ports
        @show.sends.values.map do |send|
          mix = @profile.mix_points.include?(send.source) ? Rig::Label.for(send.source) : ""
          port("send", send.lane - 1, "card/send/#{send.lane}", send.lane, send.lane.to_s, name: mix,
                                                                                           note: send.source ? Rig::Label::TAPS.fetch(send.tap) : "")
        end
      end

      def track_ports
        lanes = @show.tracks.values.flat_map { |track| track.points("in").map { |point| [track, point] } }
        last_used = lanes.rindex { |track, _| track.used? || !track.name.empty? } || 0
        lanes.first([@profile.sends, last_used + 1].max).map.with_index do |(track, point), row|
          side = point[%r{/([lr])\z}, 1]&.upcase
          port("track", row, point, track.number, "#{track.number}#{side}", name: track.name, note: track.armed ? "armed" : "")
        end
      end

      def return_ports
        (1..@profile.returns).map do |lane|
          heard = hearing(lane).map { |base| Rig::Label.for(base).sub("Channel", "ch") }
          port("return", lane - 1, "card/return/#{lane}", lane, lane.to_s, note: heard.empty? ? "" : "↩ #{heard.join(', ')}")
        end
      end

      def hearing(lane)
        @hearing ||= @show.channels.values.select(&:take).each_with_object(Hash.new { |hash, n| hash[n] = [] }) do |channel, index|
          first = channel.take[/\d+\z/].to_i
          @profile.channel_points(channel.number).each_with_index { |base, side| index[first + side] << base }
        end
        @hearing[lane]
      end

      def make_threads
        pairs = @ways.each_with_object(Hash.new { |hash, pair| hash[pair] = [] }) do |(strand, ids), found|
          ids.each_cons(2) { |from, to| found[[from, to]] |= [strand] if from && to }
        end
        pairs.map do |(from, to), through|
          Thread.new(from: from, to: to, dye: dye_of(through.first), straight: @rows[from] == @rows[to], strands: through)
        end
      end

      def make_loose
        @ways.values.flat_map do |ids|
          used = ids.each_index.select { |i| ids[i] }
          next [] if used.empty?

          ends = []
          ends << Loose.new(port: ids[used.first], side: "left") if used.first.positive? && !SheetWay.mix?(ids)
          ends << Loose.new(port: ids[used.last], side: "right") if used.last < RAILS.size - 1
          ends
        end.uniq
      end
    end
  end
end
