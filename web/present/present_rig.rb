# frozen_string_literal: true

module Loomshuttle
  module Web
    # The rig, in the terms of the API (schema Rig): devices, links and card with their load, output patching, missing sockets, and the available
    # choices.
    class PresentRig
      # @param derived [Derived]
      def initialize(derived)
        @derived = derived
        @show = derived.show
        @desk = @show.profile
      end

      def to_h
        { version: @derived.version, desk: desk, ports: ports, boxes: boxes, card: card, recorder: recorder, interface: interface, missing: missing, choices: choices }
      end

      private

      def desk
        own = @desk.inlets.select(&:own?)
        { id: @desk.id, name: @desk.name, rate: @show.rate, leads: @show.rig.desk_clock == "leads", channels: @desk.strips.size, buses: @desk.buses, matrices: @desk.matrices,
          inputs: own.map { |family| { label: family.label, present: family.present, names: family.names } }, patching: patching, aes3: aes3 }
      end

      def patching
        return "Patches each channel individually, flips by #{@desk.flip}" if @desk.stage_block == 1

        slots = @desk.free_slots.zero? ? "no free slots" : "#{Settings::Blocks.single(@show).size} of #{@desk.free_slots} free slots taken"
        "Patches in blocks of #{@desk.stage_block}, #{slots}, flips by #{@desk.flip}"
      end

      # Lines of two channels each, and what cable they want.
      def aes3
        channels = @desk.to_json_data["outputs"].select { |group| group["standard"] == "AES3" }.sum { |group| group["count"] }
        return if channels.zero?

        lines = channels / Rig::Aes3::CHANNELS
        "#{lines} AES3 line#{'s' if lines > 1}, #{Rig::Aes3::CHANNELS} channels each, #{Rig::Aes3::IMPEDANCE_OHM} ohm"
      end

      def ports
        fill = Rig::Fill.links(@show)
        @desk.ports.map do |port|
          { id: port, chain: @show.layout.chain(port).map(&:letter), up: fill[port][:up].to_h, down: fill[port][:down].to_h }
        end
      end

      def boxes
        heard = @show.channels.values.select(&:stage).to_h { |channel| [@show.layout.socket_of(channel.stage), channel] }
        @show.boxes.values.select(&:profile).map do |plan|
          box = @show.catalog.fetch("box", plan.profile)
          plan.to_h.merge(name: box.name, title: plan.title, inputs: box.inputs, outputs: box.outputs, ports: box.ports, leads: plan.clock == "leads",
                          used: (1..box.inputs).count { |n| !heard[Rig::Point.box(plan.letter, "in", n)]&.name.to_s.empty? })
        end
      end

      def card
        fill = Rig::Fill.card(@show)
        { label: @desk.card_label, mode: @show.setup.card_mode, modes: @desk.card_modes.map { |id, lanes| { id: id, lanes: lanes } }, lanes: @show.card_lanes,
          up: fill[:up].to_h, down: fill[:down].to_h }
      end

      def recorder
        trip = Timing::Latency.round_trip(buffer: @show.setup.buffer, rate: @show.rate).transform_values { |ms| ms.round(1) }
        tracks = @show.tracks.values
        { buffer: @show.setup.buffer, in_ms: trip[:in], out_ms: trip[:out], total_ms: trip[:total], lanes_in: tracks.flat_map(&:inputs).uniq.size,
          lanes_out: (tracks.flat_map(&:outputs) + @show.setup.own_mix).uniq.size, armed: tracks.count(&:armed), leads: @show.rig.recorder_clock == "leads", bits: @show.setup.bits,
          own_mix: @show.setup.own_mix, monitoring: @show.setup.monitoring, length_minutes: @show.setup.length_minutes, default_tap: @show.setup.default_tap,
          desk_follows: @show.setup.desk_follows }
      end

      def interface
        id = @show.rig.interface or return nil
        found = @show.catalog.fetch("interface", id)
        { id: id, name: found.name, outputs: found.outputs, computers: found.computers, changeover: found.changeover,
          now: found.outputs_at(rate: @show.rate, bits: [@show.setup.bits, 24].min), modes: found.modes.map(&:to_h) }
      end

      def missing
        Rig::Missing.runs(@show.layout).map { |run| { label: run.label, why: run.why } }
      end

      def choices
        kinds = %w[desk box interface].to_h { |kind| [kind, @show.catalog.all.select { |profile| profile.kind == kind }.map { |profile| { id: profile.id, name: profile.name } }] }
        { desks: kinds["desk"], boxes: kinds["box"], interfaces: kinds["interface"], rates: @desk.rates, spots: Settings::SPOTS, buffers: Settings::BUFFERS,
          taps: @desk.taps.map { |tap| { id: tap, label: Rig::Label::TAPS.fetch(tap) } },
          clocks: Settings::Clock.devices(@show).keys.map { |device| { id: device, name: Settings::Clock.name(device).sub(/\A./, &:upcase) } } }
      end
    end
  end
end
