# frozen_string_literal: true

module Loomshuttle
  module Web
    # A show and what the core derives from it, as the API tells it (schemas Show, Strand, Finding, Hop).
    class Present
      # @param derived [Derived]
      # @param heard [Array<Checks::Finding>] by who hears what
      def initialize(derived, heard: [])
        @derived, @heard = derived, heard
        @show = derived.show
      end

      # @param undoable [Hash]
      def show(undoable)
        { id: @derived.id, version: @derived.version, about: @show.about, profile: profile, setup: @show.setup.to_h,
          channels: channels, sends: @show.sends.values.map(&:to_h), tracks: @show.tracks.values.map { |track| track_hash(track) },
          sheet: sheet, strands: strands, findings: findings, uncaptured: uncaptured, latency: latency, undo: undoable[:undo], redo: undoable[:redo] }
      end

      def strands = @derived.context.strands.map { |strand| strand_hash(strand) }

      # Open ones and accepted ones, each with its reason.
      def findings
        Checks.in_order(@derived.findings + @heard).map do |finding|
          finding.to_h.merge(path: finding.path.map { |point| { point: point, label: Rig::Label.for(point) } }, accepted: @show.setup.accepted[finding.id], **mending(finding.fix))
        end
      end

      # What the next capture will not have; what mends it stands with its finding.
      def uncaptured = Signal::Uncaptured.of(@show).map { |left| left.to_h.slice(:kind, :title, :why).merge(at: left.point) }

      # @param id [String] of a strand
      # @raise [Invalid] when there is none
      def strand_trace(id)
        strand = @derived.context.strands.find { |one| one.id == id } or raise Invalid.new("There is no strand #{id} any more.", where: "strand")
        hops = story.of_strand(strand).map { |hop| hop_hash(hop) }
        { strand: strand_hash(strand), hops: hops, comes_home: strand.comes_home? }
      end

      # @param name [String] of any point of the graph
      # @return [Hash] every way through it (schema PointTrace)
      # @raise [Invalid] when it names no point
      def point_trace(name)
        point = Rig::Point.of(name)
        { point: point, label: @show.label(point), ways: story.through(point).map { |hops| hops.map { |hop| hop_hash(hop) } } }
      end

      private

      # What mends a finding: an edit of the plan, or levels to be pressed at the desk.
      def mending(fix)
        pressed = fix.is_a?(Hearing::Press)
        { fix: fix && !pressed ? { label: fix.label, settings: fix.settings } : nil, press: pressed ? fix.to_h : nil }
      end

      # With what they share a preamp with: of an old show that had it in several ways, as it counts.
      def channels
        settled = Settings::SharedPreamp.settled(@show)
        shared = Settings::SharedPreamp.groups(settled).flat_map { |list| list.map { |one| [one.number, list.map(&:number) - [one.number]] } }.to_h
        settled.channels.values.map { |one| one.to_h.merge(same_preamp: shared.fetch(one.number, []), trims: !@show.profile.strip(one.number).trim.nil?) }
      end

      def story = @derived.context.then { |context| Signal::Story.new(@show, context.graph, context.levels) }

      def profile
        desk = @show.profile
        { id: desk.id, name: desk.name, rate: @show.rate, taps: desk.taps.map { |tap| { id: tap, label: Rig::Label::TAPS.fetch(tap) } },
          card_modes: desk.card_modes.keys, buffers: Settings::BUFFERS, dyes: Settings::DYES, meter_lanes: desk.all_channel_points,
          meter_mixes: desk.mains.map { |side| Rig::Point.main(side) } + (1..desk.mix_outputs).map { |n| Rig::Point.desk("output", n) },
          sends: desk.sends, returns: desk.returns, stage_block: desk.stage_block, take_block: desk.take_block, free_slots: desk.free_slots,
          slots_used: Settings::Blocks.single(@show).size, flip: desk.flip }
      end

      def sheet
        drawn = @derived.sheet
        { ports: drawn.ports.map(&:to_h), threads: drawn.threads.map(&:to_h), loose: drawn.loose.map(&:to_h) }
      end

      # With the name and dye that it has or inherits.
      def track_hash(track) = track.to_h.merge(title: @show.title_of(track), dye: @show.dye_of(track))

      def strand_hash(strand)
        channel = @show.channel_at(strand.channel)
        track = strand.track && @show.tracks[strand.track]
        { id: strand.id, name: channel&.title || (strand.channel ? @show.label(strand.channel) : track && @show.title_of(track)).to_s,
          dye: channel&.colour || "iron", socket: strand.socket, channel: strand.channel, channel_number: channel&.number,
          position: channel&.position, send: strand.send, tap: strand.tap, track: strand.track, track_name: track && @show.title_of(track),
          armed: track&.armed, return: strand.return, home: strand.home, comes_home: strand.comes_home? }
      end

      def hop_hash(hop)
        hop.to_h.merge(delay_ms: Timing::Latency.ms(hop.delay, @show.rate).round(2), total_delay_ms: Timing::Latency.ms(hop.total_delay, @show.rate).round(2))
      end

      def latency
        trip = Timing::Latency.round_trip(buffer: @show.setup.buffer, rate: @show.rate)
        { in_ms: trip[:in].round(1), out_ms: trip[:out].round(1), total_ms: trip[:total].round(1) }
      end
    end
  end
end
