# frozen_string_literal: true

module Loomshuttle
  module Rig
    # The abilities of a desk type, and the names of its points. Everything else asks here whether a socket, channel, tap or lane exists.
    class Desk
      # One input channel: its number, its width in lanes (1 mono, 2 stereo), its preamp's range, and that of its trim, nil where it has none.
      Strip = Value.define(:number, :width, :preamp, :trim)
      # A run of sources or outlets that is numbered together. present: how many there really are; names: how many the
      # desk's patch can name; block: how many move together; id: "in", "a", "card", …; first: its first point.
      Family = Value.define(:id, :label, :first, :present, :names, :block) do
        # @param number [Integer] from 1
        # @return [Point]
        def point(number) = first.beside(number - 1)

        # @return [Array<Point>] all its points, whether present or not
        def points = (1..names).map { |number| point(number) }

        # @return [Boolean] whether its sockets are the desk's own
        def own? = first.device == "desk"
      end

      attr_reader :id, :name, :rates, :taps, :strips, :ports, :buses, :matrices, :mains, :mix_outputs, :inlets, :outlets,
                  :card_label, :sends, :returns, :packet, :card_modes, :stage_block, :free_slots, :take_block, :flip, :personal_lanes, :mixing

      # stage_points: every point that a channel's stage source can name, present or not; return_points: of the card;
      # all_channel_points: base points of all channel lanes in order; mix_points: of buses, mains and matrices;
      # outlet_blocks: "a-2" => lanes 9 to 16 down link A
      # @return [Array<Point>, Hash{String=>Array<Point>}]
      attr_reader :stage_points, :return_points, :all_channel_points, :mix_points, :outlet_blocks

      # @param data [Hash] the parsed JSON
      def initialize(data)
        @data = data
        @memo = {}
        @id, @name, @rates, @taps = data.fetch_values("id", "name", "rates", "taps")
        @strips = read_strips(data["channels"])
        @ports = data.fetch("ports", []).freeze
        @buses, @mains = data.fetch_values("buses", "mains")
        @matrices = data.fetch("matrices", 0)
        @personal_lanes = data.fetch("personal_lanes", 0)
        @mixing = Mixing.read(data.fetch("mix", {}), taps)
        read_card(data["card"])
        read_patching(data)
        @inlets = (local_inlets + port_inlets + [card_inlet]).freeze
        @outlets = (local_outlets + port_outlets).freeze
        list_points
        @mix_outputs = data.fetch("mix_outputs") { local_outlets.sum(&:present) }
        check
        freeze
      end

      # @return ["desk"]
      def kind = "desk"

      # @return [Hash] the profile's data as read
      def to_json_data = @data

      def inspect = "#<Desk #{id}>"

      # Caches what is derived from the profile alone.
      # @param key [Symbol]
      # @yieldreturn [Object] computed once
      def memo(key) = @memo[key] ||= yield

      # @return [Integer] samples per second of a new show
      def rate = rates.first

      # @return [Strip, nil]
      def strip(number) = strips[number - 1]

      # @return [Array<Point>] input sockets on the desk itself
      def input_sockets = inlets.select(&:own?).flat_map { |family| family.points.first(family.present) }

      # @param point [Point, nil] a stage source
      # @return [Boolean] whether its socket is digital, so that no preamp and no 48 V is behind it
      def digital?(point) = !point.nil? && point.device == "desk" && @digital.include?(point.kind)

      # @return [Array<Point>] base points of a channel, one per lane
      def channel_points(number) = strip(number).width == 1 ? [Point.desk("ch", number)] : Point::SIDES.map { |side| Point.desk("ch", number, side) }

      # @return [Array<Point>] base points that a card send can carry
      def sendable_points = all_channel_points + mix_points

      # @return [Array<Point>] base points that can feed a matrix: buses and mains
      def into_matrix = mix_points.reject { |point| point.kind == "matrix" }

      # @return [Array<Point>] base points that outputs can carry
      def output_points
        kinds = { "ch" => all_channel_points, "card" => return_points }
        mixing.sources.flat_map { |kind| kinds.fetch(kind) { mix_points.select { |point| point.kind == kind } } }
      end

      # @param list [:stage_points, :return_points, :sendable_points, :mix_points, :output_points]
      # @return [Set<Point>] one of its lists as a set, for quick membership tests
      def known(list) = memo(list) { public_send(list).to_set.freeze }

      # @return [Array<String>] taps that a base point offers; a mix has no preamp and no channel equaliser
      def taps_of(base) = base.channel? ? taps : taps & %w[pre-fader post-fader]

      # @return [Integer] lanes the card carries each way in a mode
      def lanes_in(mode) = card_modes.fetch(mode)

      private

      def list_points
        @stage_points = inlets.flat_map(&:points).freeze
        @return_points = (1..returns).map { |lane| Point.card_return(lane) }.freeze
        @all_channel_points = strips.flat_map { |strip| channel_points(strip.number) }.freeze
        @mix_points = ((1..buses).map { |n| Point.desk("bus", n) } + mains.map { |side| Point.main(side) } + (1..matrices).map { |n| Point.desk("matrix", n) }).freeze
        @outlet_blocks = outlets.flat_map { |family| blocks_of(family) }.to_h.freeze
      end

      def blocks_of(family)
        family.points.each_slice(family.block).with_index(1).map { |points, nth| ["#{family.id}-#{nth}", points] }
      end

      def read_strips(groups)
        all = groups.flat_map { |group| [group] * group["count"] }
        all.map.with_index(1) do |group, number|
          preamp, trim = group.values_at("preamp", "trim").map { |range| range && Preamp.new(**range.transform_keys(&:to_sym)) }
          Strip.new(number: number, width: group["width"], preamp: preamp, trim: trim)
        end.freeze
      end

      def read_card(card)
        @card_label, @sends, @returns, @packet = card.fetch_values("label", "sends", "returns", "packet")
        @card_modes = card["modes"].to_h { |mode| [mode["id"], mode["lanes"]] }.freeze
      end

      def read_patching(data)
        patching = data.fetch("patching", {})
        @stage_block = patching.fetch("stage_block", 1)
        @free_slots = patching.fetch("free_slots", 0)
        @take_block = patching.fetch("take_block", 1)
        @port_block = patching.fetch("port_block", 1)
        @flip = data["flip"]
      end

      def local_inlets
        @digital = @data["inputs"].select { |group| group["standard"] == "AES3" }.map { |group| group["prefix"] }.freeze
        @data["inputs"].map do |group|
          Family.new(id: group["prefix"], label: group["label"], first: Point.desk(group["prefix"], 1), present: group["count"],
                     names: group.fetch("names", group["count"]), block: stage_block)
        end
      end

      def port_inlets
        ports.map { |port| Family.new(id: port, label: port.upcase, first: Point.link(port, "up", 1), present: 0, names: Aes50::LANES, block: stage_block) }
      end

      def card_inlet = Family.new(id: "card", label: "Card", first: Point.card_return(1), present: returns, names: returns, block: stage_block)

      def local_outlets
        @data["outputs"].map do |group|
          Family.new(id: group["prefix"], label: group["label"], first: Point.desk(group["prefix"], 1), present: group["count"],
                     names: group["count"], block: group.fetch("block", 1))
        end
      end

      def port_outlets
        ports.map { |port| Family.new(id: port, label: port.upcase, first: Point.link(port, "down", 1), present: 0, names: Aes50::LANES, block: @port_block) }
      end

      # What a schema cannot say.
      def check
        check_sockets
        check_blocks
        largest = card_modes.values.max
        impossible("a card mode carries #{largest} lanes, more than the card's #{[sends, returns].max}", "/card/modes") if largest > [sends, returns].max
      end

      def check_sockets
        twice = (inlets.map(&:id) + outlets.map(&:id)).tally.find { |_, count| count > 2 }&.first
        impossible("two groups of sockets are called #{twice}", "/inputs") if twice
        short = @data["inputs"].find { |group| group.fetch("names", group["count"]) < group["count"] }
        impossible("#{short['label']} has #{short['count']} sockets, but its patch can name #{short['names']} only", "/inputs") if short
        %w[inputs outputs].each { |list| check_lines(list) }
      end

      def check_lines(list)
        odd = @data[list].find { |group| group["standard"] == "AES3" && group["count"] % Aes3::CHANNELS != 0 } or return
        impossible("#{odd['label']} has #{odd['count']} channels, but each AES3 line carries #{Aes3::CHANNELS}", "/#{list}")
      end

      def check_blocks
        wide = strips.any? { |strip| strip.width > 1 }
        impossible("stereo channels cannot be patched in blocks", "/patching") if wide && [stage_block, take_block].max > 1
        impossible("it flips by block, but take sources have no blocks", "/flip") if flip == "block" && take_block == 1
      end

      def impossible(why, where) = raise(Invalid.new("#{name} cannot be a desk: #{why}.", where: where))
    end
  end
end
