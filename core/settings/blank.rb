# frozen_string_literal: true

module Loomshuttle
  module Settings
    # The parts of a show in which nothing is set yet, as many as the desk has.
    module Blank
      # Tracks that a show has at least: some play several to one return.
      LEAST_TRACKS = 32
      START_BUFFER = 1024

      # @param desk [Rig::Desk]
      # @return [Hash] all groups of a show but its boxes
      def self.groups(desk)
        { channels: numbered(desk.strips.size) { |n| channel(desk, n) },
          sends: numbered(desk.sends) { |n| CardSend.new(lane: n, source: nil, tap: nil) },
          tracks: numbered([desk.sends, LEAST_TRACKS].max) { |n| track(n) },
          outputs: numbered(desk.mix_outputs) { |n| MixOutput.new(number: n, source: nil, expected: nil) },
          outlets: outlets(desk), buses: numbered(desk.buses) { |n| Bus.new(number: n, name: "") }, setup: setup(desk) }
      end

      # @return [Hash{String=>BoxPlan}] every place for a box, empty
      def self.boxes
        LETTERS.to_h do |letter|
          [letter, BoxPlan.new(letter: letter, profile: nil, port: nil, place: 1, input_offset: 0, output_offset: 0, clock: "follows", spot: nil)]
        end.freeze
      end

      def self.rig(desk) = RigPlan.new(desk: desk.id, rate: desk.rate, desk_clock: "leads", recorder_clock: "follows", interface: nil)

      class << self
        private

        def numbered(count) = (1..count).to_h { |n| [n, yield(n)] }.freeze

        def channel(desk, number)
          gain = [desk.strip(number).preamp.min_db, 0].max
          Channel.new(number: number, name: "", short: "", colour: "iron", stage: nil, take: nil, position: "stage", gain: gain,
                      phantom: false, mic: "", stand: "", spot: nil, paired: false, fixed: false)
        end

        def track(number)
          Track.new(number: number, name: "", colour: nil, stereo: false, inputs: [].freeze, outputs: [].freeze, armed: false, shares: "")
        end

        # Outlets of each family carry the outputs in order, as far as there are any.
        def outlets(desk)
          first = Hash.new(1)
          desk.outlet_blocks.to_h do |block, points|
            family = block[/\A[a-z]+/]
            at = first[family]
            first[family] += points.size
            [block, Outlet.new(block: block, first: at <= desk.mix_outputs ? at : nil)]
          end.freeze
        end

        def setup(desk)
          Setup.new(card_mode: desk.card_modes.keys.first, buffer: START_BUFFER, bits: 24, default_tap: desk.taps.first, own_mix: [].freeze, mirror: "",
                    length_minutes: 120, monitoring: "desk", desk_follows: "at once", alignment: LineCheck::Alignment::LEVELS.keys.first, accepted: {}.freeze)
        end
      end
    end
  end
end
