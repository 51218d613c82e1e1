# frozen_string_literal: true

require "sequel"
require "time"

module Loomshuttle
  module Web
    # The line check and the stage list, in the terms of the API (schemas RollCall, StageList).
    class PresentLineCheck
      # @param control [Control]
      def initialize(control)
        @control = control
        @show = control.seen.show
      end

      # Most urgent first; `patch` is each line's place in patch order.
      def roll
        lines = @control.roll
        places = lines.each_with_index.to_h { |line, at| [line.source.number, at] }
        { alignment: @show.setup.alignment, levels: Settings::ALIGNMENT_LEVELS.map { |level, standard| { level: level, standard: standard } }, ceiling: LineCheck::Alignment::CEILING_DB,
          tolerance: LineCheck::Alignment::TOLERANCE_DB, version: @control.seen.version,
          lines: LineCheck::Ear.by_need(lines).map { |line| line_hash(line, places[line.source.number]) } }
      end

      # Sockets in use, box by box in the order of their chains, and who plugged them.
      def stage
        plugged = ticks("plugged")
        lines = @control.roll.group_by { |line| line.source.socket }
        boxes = @show.layout.sockets.select { |socket| lines.key?(socket) }.group_by(&:letter)
        { boxes: boxes.map { |letter, sockets| box_hash(letter, sockets.map { |socket| socket_hash(socket, lines[socket], plugged[socket.name]) }) }, outputs: outputs }
      end

      # @return [Array<Hash>] output sockets in use, by box
      def outputs
        Views::StageOutputs.of(@show).map do |place|
          { label: "#{place.title}, #{place.note}", sockets: place.sockets.map do |one|
            { socket: one.point.name, label: Rig::Label.short(one.point), output: one.output, carries: one.carries, plugs: one.plugs }
          end }
        end
      end

      private

      def line_hash(line, place)
        source, verdict = line.source, line.verdict
        { channel: source.number, name: source.name, dye: source.dye, socket: Rig::Label.short(source.socket), meter: source.meter, at: source.at, place: place,
          verdict: verdict.word, reason: verdict.reason, advice: verdict.advice, settings: verdict.settings, also: line.also, loud: round(line.loud),
          peak: round(line.peak), floor: round(line.floor), clips: line.clips, gain: source.gain, heard: heard[source.number.to_s], was: line.was }
      end

      def socket_hash(socket, lines, tick)
        sources = lines.map(&:source)
        first = sources.first
        { socket: socket, label: Rig::Label.short(socket), name: sources.map { |one| one.name.empty? ? "Channel #{one.number}" : one.name }.join(", "),
          channels: sources.map(&:number), dye: first.dye, phantom: sources.any?(&:phantom), mic: first.mic, stand: @show.channels[first.number].stand,
          meter: first.meter, at: first.at, plugged: tick }
      end

      # The desk's own sockets have no letter.
      def box_hash(letter, sockets)
        hung = @show.layout.hung.find { |one| one.letter == letter } or return { id: "desk", label: @show.profile.name, sockets: sockets }
        spot = @show.boxes[letter].spot
        { id: hung.id, label: [hung.title, hung.box.name, spot && "stage #{spot}"].compact.join(", "), sockets: sockets }
      end

      def heard = @heard ||= ticks("heard")

      # The roll is called without the database, too.
      def ticks(kind)
        @control.ticks.all(@control.seen.id).select { |tick| tick[:kind] == kind }.to_h { |tick| [tick[:subject], { who: tick[:who], at: tick[:at].iso8601 }] }
      rescue Sequel::Error
        {}
      end

      def round(level) = level&.round(1)
    end
  end
end
