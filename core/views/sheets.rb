# frozen_string_literal: true

module Loomshuttle
  module Views
    # The patch as tables for printing: stage boxes and the desk's own sockets by socket, the desk by channel, outputs by socket, the recorder by
    # track.
    class Sheets
      # One table. rows: cells as text, in the order of head.
      Table = Value.define(:title, :note, :head, :rows)

      # @param show [Settings::Show]
      # @return [Array<Table>]
      def self.of(show) = new(show).tables

      def initialize(show)
        @show = Settings::SharedPreamp.settled(show)
        @leaders = Settings::SharedPreamp.leaders(@show)
        @heard = @show.channels.values.select(&:stage).group_by { |channel| show.layout.socket_of(channel.stage) }
        @sends = show.sends.values.select(&:source).group_by { |send| show.channel_at(send.source)&.number }
      end

      def tables = (@show.layout.hung.map { |hung| box(hung) } + [local, *stage_outputs, desk, subgroups, outputs, recorder]).reject { |table| table.rows.empty? }

      private

      def box(hung)
        spot = @show.boxes[hung.letter].spot
        note = [hung.box.name, spot && "stage #{spot}", "link #{hung.port.upcase}, lanes #{hung.up.min} to #{hung.up.max}"].compact.join(", ")
        Table.new(title: hung.title, note: note, head: STAGE, rows: (1..hung.box.inputs).map { |number| stage_row(hung.socket("in", number)) })
      end

      STAGE = ["Socket", "Ch", "Source", "Microphone", "Stand", "48 V", "Notes"].freeze
      private_constant :STAGE

      # The desk's own sockets, only those that something is plugged to.
      def local
        points = @show.profile.input_sockets.select { |point| @heard.key?(point) }
        Table.new(title: "At the desk", note: @show.profile.name, head: STAGE, rows: points.map { |point| stage_row(point) })
      end

      def stage_row(point)
        channels = @heard.fetch(point, []).reject { |channel| channel.name.empty? }
        [Rig::Label.short(point).strip, channels.map(&:number).join(", "), channels.map(&:name).join(", "), channels.map(&:mic).uniq.join(", "),
         channels.map(&:stand).uniq.join(", "), channels.any?(&:phantom) ? "48 V" : "",
         channels.map(&:notes).reject(&:empty?).uniq.join("; ")]
      end

      # What comes out where on stage and at the desk, and who or what is plugged in there.
      def stage_outputs
        StageOutputs.of(@show).map do |place|
          Table.new(title: "#{place.title}, outputs", note: place.note, head: ["Socket", "Output", "Carries", "What plugs in"],
                    rows: place.sockets.map { |socket| [Rig::Label.short(socket.point), socket.output.to_s, socket.carries, socket.plugs.join(", ")] })
        end
      end

      def subgroups
        # The left one of a pair speaks for both.
        rows = @show.buses.values.select { |bus| bus.mode == "subgroup" && !@show.buses[bus.number - 1]&.paired }.map do |bus|
          members = @show.channels.values.select { |channel| channel.groups.include?(bus.number) }
          [bus.number.to_s, bus.name, members.map { |channel| "#{channel.number} #{channel.name}".strip }.join(", "), bus.main ? "main" : ""]
        end
        Table.new(title: "Subgroups", note: @show.profile.name, head: %w[Bus Name Members To], rows: rows)
      end

      def desk
        rows = @show.channels.values.select { |channel| !channel.name.empty? || @sends.key?(channel.number) }.map do |channel|
          sends = @sends.fetch(channel.number, [])
          [channel.number.to_s, channel.name, channel.stage ? Rig::Label.for(@show.layout.socket_of(channel.stage)) : "", gain(channel),
           sends.map { |send| "#{send.lane} #{Rig::Label::TAPS.fetch(@show.tap_of(send))}" }.join(", "), channel.take&.number.to_s]
        end
        Table.new(title: "Desk by channel", note: @show.profile.name, head: ["Ch", "Name", "Stage source", "Preamp", "Card send, tap", "Take from return"], rows: rows)
      end

      # With the channel that has the same preamp before, and its own trim.
      def gain(channel)
        return "" if channel.stage.nil? || channel.card_fed?

        leader = @leaders[channel.number]
        shared = "with #{leader.number}" if leader && leader != channel
        trim = "trim #{Text.decibels(channel.trim)}" unless channel.trim.zero?
        [Text.decibels(channel.gain), shared, trim].compact.join(", ")
      end

      def outputs
        rows = @show.outputs.values.select(&:source).map do |output|
          sockets = @show.sockets_of_output(output.number).map { |point| Rig::Label.for(point) }
          [output.number.to_s, @show.label(output.source), taken(output), how(output), sockets.empty? ? "nowhere" : sockets.join(", ")]
        end
        lanes = @show.personal_lanes.values.select(&:source).map { |lane| ["P#{lane.number}", @show.label(lane.source), taken(lane), "", "Personal mix #{lane.number}"] }
        Table.new(title: "Outputs", note: @show.profile.name, head: ["Output", "Carries", "Taken", "Delay, polarity", "At"], rows: rows + lanes)
      end

      def taken(output) = Rig::Label::TAPS.fetch(@show.point_of_output(output).tap, "direct")

      def how(output)
        delay = "#{Timing::Latency.ms(output.delay, @show.rate).round(2)} ms" if output.delay.positive?
        [delay, ("turned" if output.polarity)].compact.join(", ")
      end

      def recorder
        rows = @show.tracks.values.select(&:used?).map do |track|
          sources = track.inputs.filter_map { |lane| @show.sends[lane].source && @show.label(@show.sends[lane].source) }
          [track.number.to_s, @show.title_of(track), track.stereo ? "stereo" : "mono", track.inputs.join(" and "), sources.join(", "),
           track.outputs.join(" and "), track.armed ? "armed" : ""]
        end
        head = ["Track", "Name", "Width", "Card send", "Source", "Card return", "Armed"]
        Table.new(title: "Recorder by track", note: "#{(@show.rate / 1000.0).to_s.delete_suffix('.0')} kHz, #{@show.setup.bits} bit", head: head, rows: rows)
      end
    end
  end
end
