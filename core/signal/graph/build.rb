# frozen_string_literal: true

module Loomshuttle
  module Signal
    # Derives the graph from a show: a pure function, in time proportional to the joins.
    class Build
      # @param show [Settings::Show]
      def initialize(show)
        @show = show
        @profile = show.profile
        @layout = show.layout
        @slots = LevelSlots.of(@profile)
        @joins = []
      end

      # @return [Graph]
      def graph
        join_links
        join_playback
        @show.channels.each_value { |channel| again(channel) { join_channel(channel) } }
        @show.sends.each_value { |send| again(send) { join_send(send) } }
        @show.tracks.each_value { |track| again(track) { join_track(track) } if track.used? }
        join_own_mix
        @show.outputs.each_value { |output| join_output(output) }
        @show.personal_lanes.each_value { |lane| join_carried(lane, Rig::Point.desk("personal", lane.number)) if lane.source }
        @show.outlets.each_value { |outlet| join_outlet(outlet) }
        Graph.new(@joins, fixed: MixJoins.of(Mix.new(@show)))
      end

      private

      # Reuses the joins of an item that is unchanged since the previous version. They depend only on the item, the rig and the setup.
      def again(item)
        @joins.concat(item.memo(:joins, @layout, @show.setup) do
          before, @joins = @joins, []
          yield
          made, @joins = @joins, before
          made
        end)
      end

      def join(from, to, kind:, gain_db: 0, level: nil, turned: false, delay: 0, setting: nil, live: true)
        @joins << Join.new(from: from, to: to, gain_db: gain_db, level: level, turned: turned, delay: delay, setting: setting, kind: kind, live: live)
      end

      # Sockets of the boxes onto the lanes of their links, and lanes out of their sockets.
      def join_links
        @layout.hung.each do |hung|
          { hung.up => %w[in up input_offset], hung.down => %w[out down output_offset] }.each do |lanes, (kind, way, offset)|
            lanes.each.with_index(1) do |lane, number|
              ends = [hung.socket(kind, number), Rig::Point.link(hung.port, way, lane)]
              ends.reverse! if way == "down"
              join(*ends, kind: :rig, delay: hung.box.delay, setting: "box/#{hung.letter}/#{offset}", live: lane <= @layout.link_lanes)
            end
          end
        end
      end

      # Outputs of playback into the sockets that they are cabled to, or onto the card returns that they leave by.
      def join_playback
        @show.cables.each_value do |cable|
          to = @show.playback_goes_to(cable.output) or next
          join(cable.point, to, kind: :rig, setting: to.card? ? "playback/returns" : "cable/#{cable.output}/to")
        end
      end

      def join_channel(channel)
        @profile.channel_points(channel.number).each_with_index do |base, side|
          join_stage(channel, base, side)
          join_take(channel, base, side)
        end
      end

      # A source that comes in over the card has no preamp to go through.
      def join_stage(channel, base, side)
        path = "channel/#{channel.number}"
        source = channel.stage&.beside(side)
        on_stage = channel.position == "stage"
        return join(source, base.at("channel-in"), kind: :patch, setting: "#{path}/stage", live: on_stage && carried?(source.number)) if channel.card_fed?

        join(source, base.at("preamp"), kind: :patch, level: @slots.place(:preamp, channel.number), setting: "#{path}/stage", live: source_live?(source)) if source
        join(base.at("preamp"), base.at("channel-in"), kind: :desk, setting: "#{path}/position", live: on_stage)
      end

      def source_live?(source) = !@layout.source(source)&.missing

      # Whether the card has that lane in its mode.
      def carried?(lane) = lane <= @show.card_lanes

      def join_take(channel, base, side)
        source = channel.take&.beside(side) or return
        join(source, base.at("channel-in"), kind: :patch, setting: "channel/#{channel.number}/take", live: channel.position == "take" && carried?(source.number))
      end

      def join_send(send)
        point = @show.point_of(send) or return
        join(point, Rig::Point.card_send(send.lane), kind: :patch, delay: @profile.packet, setting: "send/#{send.lane}/source", live: carried?(send.lane))
      end

      def join_track(track)
        buffer = @show.setup.buffer
        path = "track/#{track.number}"
        ins, outs = track.points("in"), track.points("out")
        track.inputs.zip(ins) do |lane, point|
          join(Rig::Point.card_send(lane), point, kind: :patch, delay: buffer, setting: "#{path}/inputs", live: carried?(lane))
        end
        ins.zip(outs) { |from, to| join(from, to, kind: :file, live: false) }
        track.outputs.zip(outs) do |lane, point|
          join(point, Rig::Point.card_return(lane), kind: :patch, delay: buffer, setting: "#{path}/outputs", live: carried?(lane))
        end
      end

      # What the recorder mixes of a take, beside the tracks' own outputs: a mono track goes to both sides, 3 dB lower.
      def join_own_mix
        @show.setup.own_mix.zip(Rig::Point::SIDES.map { |side| Rig::Point.own_mix(side) }) do |lane, mix|
          @show.tracks.each_value { |track| join_own_side(track, mix) if track.used? }
          join(mix, Rig::Point.card_return(lane), kind: :patch, delay: @show.setup.buffer, setting: "setup/own_mix", live: carried?(lane))
        end
      end

      def join_own_side(track, mix)
        point = track.points("out")[track.stereo && mix.right? ? 1 : 0]
        join(point, mix, kind: :mix, gain_db: track.stereo ? 0 : Levels::CENTRE_DB)
      end

      def join_output(output)
        return unless output.source

        join_carried(output, Rig::Point.desk("output", output.number), level: @slots.place(:output, output.number), turned: output.polarity, delay: output.delay)
      end

      # A card return goes past the mixer.
      def join_carried(item, to, **more)
        live = !item.source.card? || carried?(item.source.number)
        join(@show.point_of_output(item), to, kind: :patch, setting: "#{item.class.collection.name}/#{item.number}/source", live: live, **more)
      end

      def join_outlet(outlet)
        return unless outlet.first

        @profile.outlet_blocks.fetch(outlet.block).each_with_index do |point, at|
          number = outlet.first + at
          next unless @show.outputs[number]&.source

          # A lane of a link to which no box is connected leads nowhere.
          join(Rig::Point.desk("output", number), point, kind: :patch, setting: "outlet/#{outlet.block}/first", live: @layout.sockets_of_outlet(point).any?)
        end
      end
    end
  end
end
