# frozen_string_literal: true

# Building the signal graph and running all checks, against the number of channels, with 16 buses.
require_relative "support"

Loomshuttle.load_parts(:core)

# A desk of any size, made from the Rowan 16's profile.
def desk(channels)
  data = JSON.parse(File.read(File.join(__dir__, "..", "profiles", "rowan-16.json")))
  data["inputs"] = [{ "prefix" => "in", "label" => "In", "count" => channels }]
  data["channels"] = [data["channels"].first.merge("count" => channels)]
  data["buses"] = 16
  data["card"].merge!("sends" => channels, "returns" => channels, "modes" => [{ "id" => "all", "lanes" => channels }])
  Loomshuttle::Rig::Profile.new(data)
end

def straight(profile, channels)
  %w[socket send track_input track_output return].reduce(Loomshuttle::Patch::Show.blank(profile, {})) do |show, column|
    Loomshuttle::Patch::RunStraight.edit(show, column: column, first: 1, count: channels, start: 1).apply(show).first
  end.then { |show| arm(show, channels) }
end

def arm(show, channels) = Loomshuttle::Patch::Edit.set("arm", (1..channels).to_h { |n| ["track/#{n}/armed", true] }).apply(show).first

def milliseconds(times = 15)
  Array.new(times) do
    started = Bench.now
    yield
    (Bench.now - started) * 1000
  end.min
end

Bench.machine
rows = [["channels", "joins", "build, ms", "strands, ms", "checks, ms", "all, ms", "microseconds a join"]]
[16, 64, 128, 512].each do |channels|
  show = straight(desk(channels), channels)
  graph = Loomshuttle::Signal.build(show)
  build = milliseconds { Loomshuttle::Signal.build(show) }
  strands = milliseconds { Loomshuttle::Signal::Strands.of(show, graph) }
  context = Loomshuttle::Checks::Context.of(show)
  checks = milliseconds { Loomshuttle::Checks.run(context) }
  all = build + strands + checks
  rows << [channels, graph.joins.size, *[build, strands, checks, all].map { |one| one.round(1) }, (all * 1000 / graph.joins.size).round(1)]
end
Bench.table(rows)
