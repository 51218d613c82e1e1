# frozen_string_literal: true

# What a show costs in the core, against its size: loading it from its settings, one edit, and all that is derived from it.
# A straight patch, every track armed, 16 buses.
require_relative "../loader"
Loomshuttle.load_parts(:core)
require_relative "big_show"

module Loomshuttle
  # One row a size.
  module GraphBench
    HEAD = ["channels", "joins", "load, ms", "edit, ms", "build, ms", "strands, ms", "checks, ms", "sheet, ms", "build + strands + checks, ms", "microseconds a join"].freeze

    def self.row(channels)
      show = BigShow.straight(channels)
      times = steps(show).transform_values { |step| Bench.milliseconds(7, &step) }
      all = times.values_at(:build, :strands, :checks).sum
      joins = Signal.build(show).joins.size
      [channels, joins, *[*times.values, all].map { |one| one.round(1) }, (all * 1000 / joins).round(1)]
    end

    def self.steps(show)
      context = Checks::Context.of(show)
      settings = show.set_settings
      { load: -> { Settings::Show.load(show.catalog, show.about, settings) },
        edit: -> { Settings::Edit.set("x", "channel/3/name" => "X", "send/5/tap" => "post-eq").apply(show) },
        build: -> { Signal.build(show) }, strands: -> { Signal::Strands.of(show, context.graph) }, checks: -> { Checks.run(context) },
        sheet: -> { Signal::Sheet.new(show, context.strands) } }
    end
  end
end

Bench.machine
Bench.table([Loomshuttle::GraphBench::HEAD, *[16, 32, 64, 128, 256, 512].map { |channels| Loomshuttle::GraphBench.row(channels) }])
