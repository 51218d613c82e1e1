# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module StandIns
    module Desk
      # The desk's sound: sockets and card returns in, card sends and meter points out, on real samples. 24-bit
      # integers up to the equaliser, floats behind it; a preamp clips at full scale as a converter does.
      class Mixer
        # What one block yields: sends Int32 [frames, sends]; channels Int32 [frames, lanes] as heard at channel in;
        # mains DFloat [frames, 2]
        Result = Struct.new(:sends, :channels, :mains)

        def initialize(model, settings)
          @model = model
          @settings = settings
          @revision = nil
          @last_sample = Numo::DFloat.zeros(1, model.lanes)
        end

        # @param stage [Numo::DFloat] [frames, sockets] before the preamps
        # @param returns [Numo::Int32] [frames, card returns]
        # @return [Result]
        def process(stage, returns)
          look_at_settings unless @revision == @settings.revision
          taps = channel_taps(stage, returns)
          buses = taps["pre-fader"].dot(@bus_gains) if @buses_are_sent
          mains = taps["post-fader"].dot(@pans)
          Result.new(sends(taps, buses, mains), taps["channel-in"], mains)
        end

        private

        def channel_taps(stage, returns)
          preamp = Audio::Pcm24.from_float(pick(stage, @stage_lanes) * @gains)
          inside = choose(preamp, pick(returns, @take_lanes))
          pre_eq = Audio::Pcm24.to_float(inside)
          post_eq = equalise(pre_eq)
          { "preamp" => preamp, "channel-in" => inside, "pre-eq" => pre_eq, "post-eq" => post_eq, "pre-fader" => post_eq,
            "post-fader" => post_eq * @faders }
        end

        # A first-order tilt: treble against bass. Any filter would do that makes pre-EQ and post-EQ differ.
        def equalise(block)
          before = @last_sample.concatenate(block[0...-1, true])
          @last_sample = block[-1..-1, true].dup
          block - (before * @tilts)
        end

        # Lanes of a block by list; -1 is silence.
        def pick(block, lanes)
          out = block.class.zeros(block.shape[0], lanes.size)
          lanes.each_with_index { |from, to| out[true, to] = block[true, from] if from >= 0 && from < block.shape[1] }
          out
        end

        def choose(stage, take)
          out = stage.dup
          @on_take.each { |lane| out[true, lane] = take[true, lane] }
          out
        end

        def sends(taps, buses, mains)
          out = Numo::Int32.zeros(taps["preamp"].shape[0], @model.sends)
          @send_plan.each do |lane, tap, kind, index|
            from = { ch: taps[tap], bus: buses, main: mains }[kind][true, index]
            out[true, lane] = from.is_a?(Numo::Int32) ? from : Audio::Pcm24.from_float(from)
          end
          out
        end

        def look_at_settings
          @revision = @settings.revision
          strips = @model.channels
          @stage_lanes = sources(strips, "stage") { |name| @model.sockets.index(name) }
          @take_lanes = sources(strips, "take") { |name| name[/\d+/].to_i - 1 }
          taken = each_lane(strips) { |at| @settings.get("#{at}/hears") == "take" }
          @on_take = taken.each_index.select { |lane| taken[lane] }
          @gains = row(strips) { |at| Audio::Level.amplitude(@settings.get("#{at}/gain")) }
          @tilts = row(strips) { |at| @settings.get("#{at}/tilt") }
          @faders = row(strips) { |at| level(@settings.get("#{at}/fader")) }
          @bus_gains = Numo::DFloat[*each_lane(strips) { |at| (1..@model.buses).map { |bus| level(@settings.get("#{at}/bus/#{bus}")) } }]
          @pans = pans(strips)
          @send_plan = send_plan
          @buses_are_sent = @send_plan.any? { |_, _, kind, _| kind == :bus }
        end

        def each_lane(strips) = strips.flat_map { |strip| [yield("strip/#{strip.number}")] * strip.width }

        def row(strips, &) = Numo::DFloat[*each_lane(strips, &)].reshape(1, @model.lanes)

        def sources(strips, field)
          strips.flat_map do |strip|
            name = @settings.get("strip/#{strip.number}/#{field}")
            first = name == "" ? nil : yield(name)
            (0...strip.width).map { |side| first ? first + side : -1 }
          end
        end

        # A mono channel goes to both sides 3 dB lower, a stereo one left and right.
        def pans(strips)
          Numo::DFloat[*strips.flat_map { |strip| strip.width == 2 ? [[1.0, 0.0], [0.0, 1.0]] : [[Math.sqrt(0.5)] * 2] }]
        end

        def send_plan
          lanes = @model.modes.fetch(@settings.get("card/mode"))
          (1..[@model.sends, lanes].min).filter_map do |lane|
            from = @settings.get("card/send/#{lane}/from")
            next if from == ""

            kind, which = from.split("/")
            [lane - 1, @settings.get("card/send/#{lane}/tap"), kind.to_sym, send_index(kind, which, from)]
          end
        end

        def send_index(kind, which, from)
          case kind
          when "ch" then @model.lane(from)
          when "bus" then which.to_i - 1
          else @model.mains.index(which)
          end
        end

        def level(decibels) = decibels <= -90 ? 0.0 : Audio::Level.amplitude(decibels)
      end
    end
  end
end
