# frozen_string_literal: true

module Loomshuttle
  module Web
    # A show and what the core derives from it, as the API tells it (schemas Show, Strand, Finding, Hop).
    class Present
      # @param loaded [Store::Shows::Loaded]
      def initialize(loaded)
        @loaded = loaded
        @show = loaded.show
        @context = Checks::Context.of(@show)
      end

      # @param undoable [Hash]
      def show(undoable)
        { version: @loaded.version, about: @show.about, profile: profile, setup: @show.setup.to_h,
          channels: @show.channels.values.map(&:to_h), sends: @show.sends.values.map(&:to_h), tracks: @show.tracks.values.map(&:to_h),
          sheet: sheet, strands: strands, findings: findings, latency: latency, undo: undoable[:undo], redo: undoable[:redo] }
      end

      def strands = @context.strands.map { |strand| strand_hash(strand) }

      def findings
        Checks.run(@context).map do |finding|
          fix = finding.fix && { label: finding.fix.label, settings: finding.fix.settings }
          finding.to_h.merge(path: finding.path.map { |point| { point: point, label: Rig::Label.for(point) } }, fix: fix)
        end
      end

      # @param id [String] of a strand
      # @raise [Invalid] when there is none
      def trace(id)
        strand = @context.strands.find { |one| one.id == id } or raise Invalid.new("There is no strand #{id} any more.", where: "strand")
        hops = Signal::Story.of_strand(@show, @context.graph, strand).map { |hop| hop_hash(hop) }
        { strand: strand_hash(strand), hops: hops, comes_home: strand.comes_home? }
      end

      private

      def profile
        { id: @show.profile.id, name: @show.profile.name, rate: @show.rate, taps: @show.profile.taps.map { |tap| { id: tap, label: Rig::Label::TAPS.fetch(tap) } },
          card_modes: @show.profile.card_modes.keys, buffers: Patch::Rules::BUFFERS, dyes: Patch::DYES,
          meter_lanes: @show.profile.all_channel_points, sends: @show.profile.sends }
      end

      def sheet
        sheet = Signal::Sheet.new(@show, @context.strands)
        { ports: sheet.ports.map(&:to_h), threads: sheet.threads.map(&:to_h), loose: sheet.loose.map(&:to_h) }
      end

      def strand_hash(strand)
        channel = @show.channel_at(strand.channel)
        track = strand.track && @show.tracks[strand.track]
        { id: strand.id, name: channel&.title || (strand.channel ? Rig::Label.for(strand.channel) : track&.title.to_s),
          dye: channel&.colour || "iron", socket: strand.socket, channel: strand.channel, channel_number: channel&.number,
          position: channel&.position, send: strand.send, tap: strand.tap, track: strand.track, track_name: track&.title,
          armed: track&.armed, return: strand.return, home: strand.home, comes_home: strand.comes_home? }
      end

      def hop_hash(hop)
        hop.to_h.merge(delay_ms: Timing::Latency.ms(hop.delay, @show.rate).round(2),
                       total_delay_ms: Timing::Latency.ms(hop.total_delay, @show.rate).round(2))
      end

      def latency
        trip = Timing::Latency.round_trip(buffer: @show.setup.buffer, rate: @show.rate)
        { in_ms: trip[:in].round(1), out_ms: trip[:out].round(1), total_ms: trip[:total].round(1) }
      end
    end
  end
end
