# frozen_string_literal: true

require "json"

module Loomshuttle
  module StandIns
    module Desk
      # What this desk has, read from a profile's JSON; in the desk's own words ("in/3", "ch/17/l", "card/5"), for a
      # stand-in shares no routing code with the application.
      class Model
        attr_reader :name, :sockets, :channels, :lanes, :buses, :mains, :taps, :sends, :returns, :packet, :modes, :rate

        Channel = Value.define(:number, :width, :first_lane, :gain_range, :gain_step)

        # @param path [String] profile JSON
        def initialize(path)
          data = JSON.parse(File.read(path))
          @name, @taps, @buses, @mains = data.values_at("name", "taps", "buses", "mains")
          @rate = data["rates"].first
          @sockets = data["inputs"].flat_map { |group| (1..group["count"]).map { |n| "#{group['prefix']}/#{n}" } }
          @sends, @returns, @packet = data["card"].values_at("sends", "returns", "packet")
          @modes = data["card"]["modes"].to_h { |mode| [mode["id"], mode["lanes"]] }
          @channels = read_channels(data["channels"])
          @lanes = @channels.sum(&:width)
        end

        # @return [Integer, nil] lane of "ch/7" or "ch/17/r" in the mixer
        def lane(base)
          _, number, side = base.split("/")
          channel = @channels[number.to_i - 1]
          return nil unless number.to_i.positive? && channel && (channel.width == 2) == !side.nil?

          channel.first_lane + (side == "r" ? 1 : 0)
        end

        private

        def read_channels(groups)
          lane = 0
          groups.flat_map { |group| [group] * group["count"] }.map.with_index(1) do |group, number|
            preamp = group["preamp"]
            channel = Channel.new(number: number, width: group["width"], first_lane: lane,
                                  gain_range: preamp["min_db"]..preamp["max_db"], gain_step: preamp["step_db"])
            lane += group["width"]
            channel
          end
        end
      end
    end
  end
end
