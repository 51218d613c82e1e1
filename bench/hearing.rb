# frozen_string_literal: true

# Who hears what: the whole board and table from scratch, and after one fader, against the number of channels, buses and listeners. Every
# channel is a source and is sent to every bus; every listener hears an output of its own. The goal at 64 sources, 32 listeners and 16
# buses is 30 ms from scratch and 3 ms after a fader.
require_relative "../loader"
Loomshuttle.load_parts(:core)
require_relative "big_show"

module Loomshuttle
  # One row a size.
  module HearingBench
    HEAD = ["sources", "listeners", "buses", "structure, ms", "levels, ms", "board, ms", "table, ms", "from scratch, ms", "after a fader, ms", "and its table, ms"].freeze

    class << self
      def row(channels, listeners, buses)
        show = show(channels, buses)
        values = values(show)
        graph, levels = Signal.build(show), Signal::Levels.mixed(show, values)
        sources = (1..channels).map { |n| Hearing::Source.at(graph, n, Rig::Point.desk("in", n)) }
        hearers = (1..listeners).map { |n| Hearing::Listener.new(id: n, ears: [[Rig::Point.desk("output", ((n - 1) % show.profile.mix_outputs) + 1)]]) }
        figures(show, values, graph, levels, sources, hearers).then { |times| [channels, listeners, buses, *times.map { |one| one.round(2) }] }
      end

      private

      def figures(show, values, graph, levels, sources, hearers)
        entries = sources.flat_map { |source| source.entries.map(&:point) }
        ways = Hearing::DeskWays.new(graph, entries)
        board = Hearing::Board.of(graph, levels, entries)
        turn = turned(show, values, levels)
        heard = Hearing::Heard.new(board, sources, hearers)
        parts = [-> { Hearing::DeskWays.new(graph, entries) }, -> { Signal::Levels.mixed(show, values) },
                 -> { Hearing::Board.new(ways, entries, levels.amplitudes).compute }, -> { Hearing::Heard.new(board, sources, hearers) }].map { |part| Bench.milliseconds(7, &part) }
        [*parts, parts.sum, Bench.milliseconds(15) { board.with(turn.next) }, Bench.milliseconds(15) { heard.with(board.with(turn.next)) }]
      end

      # One fader, up and down.
      def turned(show, values, levels)
        Enumerator.new { |out| loop { [-3, -9].each { |decibels| out << levels.turned(show, values.merge("channel/7/fader" => decibels), %w[channel/7/fader]) } } }
      end

      def show(channels, buses)
        data = BigShow.profile(channels).merge("id" => "hear-#{channels}-#{buses}", "buses" => buses, "outputs" => [{ "prefix" => "out", "label" => "Out", "count" => 32 }])
        desk = Rig::Profile.from(data)
        show = Settings::Show.blank(BigShow::CATALOG.with([desk]), { name: "Bench" }, desk: desk.id)
        patch = (1..channels).to_h { |n| ["channel/#{n}/stage", "desk/in/#{n}"] }
        Settings::Edit.set("x", patch.merge((1..32).to_h { |n| ["output/#{n}/source", "desk/bus/#{((n - 1) % buses) + 1}"] })).apply(show).first
      end

      def values(show)
        channels = show.channels.keys.flat_map do |n|
          [["channel/#{n}/fader", -5], ["channel/#{n}/mute", false], ["channel/#{n}/pan", 0]] + show.buses.keys.map { |bus| ["channel/#{n}/send/#{bus}", -10] }
        end
        buses = show.buses.keys.flat_map { |bus| [["bus/#{bus}/fader", 0], ["bus/#{bus}/mute", false], ["bus/#{bus}/pan", 0]] }
        outputs = show.outputs.keys.flat_map { |n| [["output/#{n}/trim", 0], ["output/#{n}/mute", false]] }
        [*channels, *buses, *outputs, ["main/fader", 0], ["main/mute", false]].to_h
      end
    end
  end
end

Bench.machine
sizes = [[16, 32, 16], [32, 32, 16], [64, 32, 16], [128, 32, 16], [256, 32, 16], [512, 32, 16], [64, 8, 16], [64, 16, 16], [64, 32, 8], [64, 32, 32]]
Bench.table([Loomshuttle::HearingBench::HEAD, *sizes.map { |size| Loomshuttle::HearingBench.row(*size) }])
