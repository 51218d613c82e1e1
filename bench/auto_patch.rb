# frozen_string_literal: true

# Auto-patch of a whole input list onto an empty desk: the proposal, and the edit with what moves along. The goal is 64 inputs in
# under 100 ms.
require_relative "../loader"
Loomshuttle.load_parts(:core)
require_relative "big_show"

module Loomshuttle
  # One row a desk and a number of inputs.
  module AutoPatchBench
    # Two of eight are a pair.
    def self.entries(count)
      (1..count).map do |n|
        name = { 0 => "Pair #{n / 8} L", 1 => "Pair #{n / 8} R" }.fetch(n % 8) { "Source #{n}" }
        Formats::InputList::Entry.new(line: n, channel: nil, name: name, short: "", socket: nil, mic: "", stand: "", notes: "", stereo: false, phantom: false,
                                      spot: Settings::SPOTS[n % 3], colour: nil, gain: 20)
      end
    end

    def self.row(name, show, count)
      list = entries(count)
      parts = Bench.milliseconds(5) { Steps::AutoPatch.parts(show, list) }
      whole = Bench.milliseconds(5) { Steps::AutoPatch.edit(show, list) }
      [name, count, parts.round(1), whole.round(1), (whole * 1000 / count).round]
    end
  end
end

Bench.machine
rows = [16, 32, 64, 128, 256].map { |count| Loomshuttle::AutoPatchBench.row("patches singly", BigShow.blank(count), count) }
alder = Loomshuttle::Settings::Show.blank(BigShow::CATALOG, { name: "Bench" }, desk: "alder-40")
alder = 2.times.reduce(alder) { |show, _| Loomshuttle::Steps::Chain.add(show, profile: "bramble-16", port: "a").apply(show).first }
rows += [16, 32].map { |count| Loomshuttle::AutoPatchBench.row("Alder 40, blocks", alder, count) }
Bench.table([["desk", "inputs", "proposal, ms", "proposal and edit, ms", "microseconds an input"], *rows])
