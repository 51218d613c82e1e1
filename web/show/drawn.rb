# frozen_string_literal: true

require "securerandom"

module Loomshuttle
  module Web
    # One state of the show as screens draw it: schema Show without undo and redo, which differ per person. Its JSON is generated once, record by
    # record, for all screens.
    class Drawn
      # JSON Pointer of each list of records, and the fields that tell its records apart.
      LISTS = { "/channels" => %i[number], "/sends" => %i[lane], "/tracks" => %i[number], "/strands" => %i[id], "/sheet/ports" => %i[rail id],
                "/sheet/threads" => %i[from to], "/sheet/loose" => %i[port side], "/findings" => %i[id] }.freeze

      # @return [Derived] the version
      attr_reader :derived
      # @return [Array<Hash>] as Present returns them
      attr_reader :findings
      # @return [String] unique ID of this state, also across restarts
      attr_reader :edition
      # @return [Hash{String=>RecordList}] by path
      attr_reader :lists
      # @return [Hash{Symbol=>JsonText}] everything that is not a list of records
      attr_reader :rest

      # @param derived [Derived]   @param findings [Array<Hash>] as Present returns them; findings by ear can change within a version
      # @param before [Drawn, nil] the previous state, whose texts are reused
      def initialize(derived, findings, before: nil)
        @derived, @findings, @show = derived, findings, derived.show
        @edition = SecureRandom.alphanumeric(12)
        @rest = { about: @show.about, profile: profile, setup: @show.setup.to_h, uncaptured: uncaptured, latency: latency }.transform_values { |part| JsonText.of(part) }
        @lists = { "/channels" => channels, "/sends" => @show.sends.values.map(&:to_h), "/tracks" => tracks, "/strands" => strands, **sheet, "/findings" => findings }
          .to_h { |path, records| [path, RecordList.new(records, LISTS.fetch(path), before: before&.lists&.fetch(path))] }
        @news = {}
      end

      def id = derived.id
      def version = derived.version

      # @return [Hash]
      def to_h
        channels, sends, tracks, strands, ports, threads, loose, findings = @lists.values.map(&:text)
        { id: id, version: version, edition: @edition, **@rest, channels: channels, sends: sends, tracks: tracks, strands: strands,
          sheet: { ports: ports, threads: threads, loose: loose }, findings: findings }
      end

      # @param older [Drawn] of the same show
      # @return [Array<Hash>] the changes since then (RFC 6902), except id, version and edition
      def since(older) = @news[older.edition] ||= changed_rest(older) + changed_lists(older)

      private

      def changed_rest(older) = @rest.filter_map { |name, text| { op: "replace", path: "/#{name}", value: text } unless older.rest[name] == text }

      def changed_lists(older)
        @lists.flat_map do |path, list|
          ListPatch.between(path, older.lists.fetch(path).texts, list.texts) || [{ op: "replace", path: path, value: list.text }]
        end
      end

      # With what they share a preamp with: of an old show that had it in several ways, as it counts.
      def channels
        settled = Settings::SharedPreamp.settled(@show)
        shared = Settings::SharedPreamp.groups(settled).flat_map { |list| list.map { |one| [one.number, list.map(&:number) - [one.number]] } }.to_h
        settled.channels.values.map { |one| one.to_h.merge(same_preamp: shared.fetch(one.number, []), trims: !@show.profile.strip(one.number).trim.nil?) }
      end

      def profile
        desk = @show.profile
        { id: desk.id, name: desk.name, rate: @show.rate, taps: desk.taps.map { |tap| { id: tap, label: Rig::Label::TAPS.fetch(tap) } },
          card_modes: desk.card_modes.keys, buffers: Settings::BUFFERS, dyes: Settings::DYES, meter_lanes: desk.all_channel_points,
          meter_mixes: desk.mains.map { |side| Rig::Point.main(side) } + (1..desk.mix_outputs).map { |n| Rig::Point.desk("output", n) },
          sends: desk.sends, returns: desk.returns, stage_block: desk.stage_block, take_block: desk.take_block, free_slots: desk.free_slots,
          slots_used: Settings::Blocks.single(@show).size, flip: desk.flip }
      end

      # With the name and dye that they have or inherit.
      def tracks = @show.tracks.values.map { |track| track.to_h.merge(title: @show.title_of(track), dye: @show.dye_of(track)) }

      def strands = @derived.context.strands.map { |strand| PresentStrand.of(@show, strand) }

      def sheet
        drawn = @derived.sheet
        { "/sheet/ports" => drawn.ports, "/sheet/threads" => drawn.threads, "/sheet/loose" => drawn.loose }
      end

      # What the next capture will not have; what mends it stands with its finding.
      def uncaptured = Signal::Uncaptured.of(@show).map { |left| left.to_h.slice(:kind, :title, :why).merge(at: left.point) }

      def latency
        trip = Timing::Latency.round_trip(buffer: @show.setup.buffer, rate: @show.rate)
        { in_ms: trip[:in].round(1), out_ms: trip[:out].round(1), total_ms: trip[:total].round(1) }
      end
    end
  end
end
