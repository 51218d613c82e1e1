# frozen_string_literal: true

module Loomshuttle
  module Signal
    # Derives the graph from a show: a pure function, in time proportional to the joins.
    class Build
      def initialize(show)
        @show = show
        @profile = show.profile
        @joins = []
      end

      # @return [Graph]
      def graph
        @show.channels.each_value { |channel| join_channel(channel) }
        @profile.mix_points.each { |base| join("#{base}@pre-fader", "#{base}@post-fader", kind: :desk, gain_db: nil) }
        @show.sends.each_value { |send| join_send(send) }
        @show.tracks.each_value { |track| join_track(track) }
        Graph.new(@joins)
      end

      private

      def join(from, to, kind:, gain_db: 0, delay: 0, setting: nil, live: true)
        @joins << Join.new(from: from, to: to, gain_db: gain_db, delay: delay, setting: setting, kind: kind, live: live)
      end

      def join_channel(channel)
        @profile.channel_points(channel.number).each_with_index do |base, side|
          join_stage(channel, base, side)
          join_take(channel, base, side)
          join_strip(base)
          join_mix(base)
        end
      end

      def join_stage(channel, base, side)
        path = "channel/#{channel.number}"
        join(neighbour(channel.stage, side), "#{base}@preamp", kind: :patch, gain_db: channel.gain, setting: "#{path}/stage") if channel.stage
        join("#{base}@preamp", "#{base}@channel-in", kind: :desk, setting: "#{path}/position", live: channel.position == "stage")
      end

      def join_take(channel, base, side)
        return unless channel.take

        number = channel.take[/\d+\z/].to_i + side
        join("card/return/#{number}", "#{base}@channel-in", kind: :patch, setting: "channel/#{channel.number}/take",
                                                            live: channel.position == "take" && number <= @show.card_lanes)
      end

      # The taps of a channel in order; equaliser and fader are the mix's, so their gain is not the plan's to know.
      def join_strip(base)
        join("#{base}@channel-in", "#{base}@pre-eq", kind: :desk)
        join("#{base}@pre-eq", "#{base}@post-eq", kind: :desk, gain_db: nil)
        join("#{base}@post-eq", "#{base}@pre-fader", kind: :desk)
        join("#{base}@pre-fader", "#{base}@post-fader", kind: :desk, gain_db: nil)
      end

      def join_mix(base)
        @profile.mix_points.each do |mix|
          tap = mix.start_with?("desk/bus/") ? "pre-fader" : "post-fader"
          join("#{base}@#{tap}", "#{mix}@pre-fader", kind: :mix, gain_db: nil)
        end
      end

      def join_send(send)
        return unless send.source

        join(send.point, "card/send/#{send.lane}", kind: :patch, delay: @profile.packet, setting: "send/#{send.lane}/source",
                                                   live: send.lane <= @show.card_lanes)
      end

      def join_track(track)
        buffer = @show.setup.buffer
        path = "track/#{track.number}"
        ins, outs = track.points("in"), track.points("out")
        track.inputs.zip(ins) do |lane, point|
          join("card/send/#{lane}", point, kind: :patch, delay: buffer, setting: "#{path}/inputs", live: lane <= @show.card_lanes)
        end
        ins.zip(outs) { |from, to| join(from, to, kind: :file, live: false) }
        track.outputs.zip(outs) do |lane, point|
          join(point, "card/return/#{lane}", kind: :patch, delay: buffer, setting: "#{path}/outputs", live: lane <= @show.card_lanes)
        end
      end

      def neighbour(point, side) = side.zero? ? point : point.sub(/\d+\z/) { |number| (number.to_i + side).to_s }
    end
  end
end
