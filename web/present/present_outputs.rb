# frozen_string_literal: true

module Loomshuttle
  module Web
    # The Outputs page, in the terms of the API (schema Outputs): source and sockets of each output, listeners and requirements, delay speakers, and
    # the available choices.
    class PresentOutputs
      # @param derived [Derived]
      def initialize(derived)
        @derived = derived
        @show = derived.show
        @desk = @show.profile
      end

      def to_h
        { version: @derived.version, rate: @show.rate, temperature: @show.setup.temperature, later_ms: @show.setup.later_ms, speed: Timing::Air.speed(@show.setup.temperature).round(1),
          outputs: outputs, personal: personal, outlets: Outlets.of(@show), buses: buses, listeners: @show.listeners.values.map(&:to_h),
          wishes: @show.wishes.values.map(&:to_h), zones: zones, can: can }
      end

      # @return [Array<Hash>] each output that carries something, for bin/loomshuttle
      def rows
        outputs.select { |one| one[:source] }.map do |one|
          { output: one[:number], source: one[:label], tap: one[:taken], delay_ms: one[:delay_ms], polarity: one[:polarity],
            sockets: one[:sockets].map { |socket| socket[:label] } }
        end
      end

      private

      def outputs
        @show.outputs.values.map do |output|
          sockets = @show.sockets_of_output(output.number)
          output.to_h.merge(carried(output), delay_ms: Timing::Latency.ms(output.delay, @show.rate).round(2),
                                             expected_label: output.expected ? Rig::Label.for(output.expected) : "",
                                             sockets: sockets.map { |point| { point: point, label: Rig::Label.for(point) } })
        end
      end

      def personal = @show.personal_lanes.values.map { |lane| lane.to_h.merge(carried(lane)) }

      # What it carries in words, where that is taken, and the taps that could be chosen.
      def carried(item)
        taps = item.source ? @desk.mixing.taps_of(item.source) : []
        { label: item.source ? @show.label(item.source) : "", taken: @show.point_of_output(item)&.tap, taps: taps }
      end

      # With the bus that it is the right one of, whether it could be the left of a pair, and how many channels it takes as a subgroup.
      def buses
        mix, members = Signal::Mix.new(@show), @show.channels.values.flat_map(&:groups).tally
        @show.buses.values.map do |bus|
          leader = mix.leader(bus.number)
          bus.to_h.merge(right_of: leader == bus.number ? nil : leader, can_pair: @desk.mixing.pairs && bus.number.odd? && bus.number < @desk.buses,
                         channels: mix.group?(bus.number) ? members.fetch(bus.number, 0) : 0)
        end
      end

      def zones
        Timing::SpeakerDelays.zones(@show).map do |zone|
          zone.to_h.merge(main_m: zone.main_m.round(2), speaker_m: zone.speaker_m.round(2), late_ms: zone.late_ms.round(2),
                          now_ms: Timing::Latency.ms(zone.now, @show.rate).round(2), wanted_ms: Timing::Latency.ms(zone.wanted, @show.rate).round(2))
        end
      end

      def taps(list) = list.map { |tap| { id: tap, label: Rig::Label::TAPS.fetch(tap) } }

      def can
        mixing = @desk.mixing
        { sources: @desk.known(:output_points).map { |point| { point: point, label: @show.label(point) } }, longest_ms: mixing.delay_ms, polarity: mixing.polarity,
          taps: taps(mixing.output_taps),
          mixing: { subgroups: mixing.subgroups, pairs: mixing.pairs, bus_to_main: mixing.bus_to_main, send_taps: taps(mixing.send_taps) } }
      end
    end
  end
end
