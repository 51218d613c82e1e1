# frozen_string_literal: true

require "json"

module Loomshuttle
  module Rig
    # What a kind of desk can do, read from its JSON file (see profiles/profile.schema.json), and the names of all its
    # points. Everything else asks here whether a socket, channel, tap or lane exists.
    class Profile
      Preamp = Value.define(:min_db, :max_db, :step_db)
      # One input channel of the desk: its number, its width in lanes (1 mono, 2 stereo) and its preamp's range.
      Strip = Value.define(:number, :width, :preamp)

      attr_reader :id, :name, :rates, :taps, :strips, :input_sockets, :output_sockets, :card_label, :sends, :returns,
                  :packet, :card_modes

      # @param path [String] a profile's JSON file
      # @raise [Invalid] when the file is not JSON or lacks a part
      def self.read(path)
        new(JSON.parse(File.read(path)))
      rescue JSON::ParserError => e
        raise Invalid.new("#{File.basename(path)} is not JSON: #{e.message}", where: path)
      end

      # @param data [Hash] the parsed JSON
      def initialize(data)
        @id, @name, @rates, @taps = data.fetch_values("id", "name", "rates", "taps")
        @input_sockets = sockets(data["inputs"])
        @output_sockets = sockets(data["outputs"])
        @strips = read_strips(data["channels"])
        @buses, @mains = data.fetch_values("buses", "mains")
        read_card(data["card"])
        freeze
      rescue KeyError => e
        raise Invalid.new("The profile lacks \"#{e.key}\".", where: data["id"])
      end

      # @return [Integer] samples a second; the slice's desks have one rate
      def rate = rates.first

      # @return [Strip, nil]
      def strip(number) = strips[number - 1]

      # Base points of a channel, one a lane: ["desk/ch/7"], or left and right of a stereo one.
      def channel_points(number)
        return ["desk/ch/#{number}"] if strip(number).width == 1

        %w[l r].map { |side| "desk/ch/#{number}/#{side}" }
      end

      # @return [Array<String>] base points of all channel lanes in order
      def all_channel_points = strips.flat_map { |strip| channel_points(strip.number) }

      # @return [Array<String>] "desk/bus/1" .. "desk/main/r"
      def mix_points = (1..@buses).map { |n| "desk/bus/#{n}" } + @mains.map { |side| "desk/main/#{side}" }

      # Taps that a base point offers: a mix has no preamp and no channel equaliser.
      def taps_of(base) = base.start_with?("desk/ch/") ? taps : taps & %w[pre-fader post-fader]

      # @return [Integer] lanes the card carries each way in a mode
      def lanes_in(mode) = card_modes.fetch(mode)

      private

      def sockets(groups)
        groups.flat_map { |group| (1..group["count"]).map { |n| "desk/#{group['prefix']}/#{n}" } }.freeze
      end

      def read_strips(groups)
        all = groups.flat_map { |group| [group] * group["count"] }
        all.map.with_index(1) do |group, number|
          Strip.new(number: number, width: group["width"], preamp: Preamp.new(**group["preamp"].transform_keys(&:to_sym)))
        end.freeze
      end

      def read_card(card)
        @card_label, @sends, @returns, @packet = card.fetch_values("label", "sends", "returns", "packet")
        @card_modes = card["modes"].to_h { |mode| [mode["id"], mode["lanes"]] }.freeze
      end
    end
  end
end
