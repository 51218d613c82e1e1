# frozen_string_literal: true

require "json"

# Shows to test on. They are built here from settings and never read from the demo, which may change.
module CoreHelp
  PROFILE = Loomshuttle::Rig::Profile.read(File.join(Loomshuttle::ROOT, "profiles", "rowan-16.json"))
  COLUMNS = %w[socket send track_input track_output return].freeze

  module_function

  def blank = Loomshuttle::Patch::Show.blank(PROFILE, { name: "Test" })

  # Channels 1 to count patched straight through to tracks and back, armed and named.
  def straight(count = 16)
    show = COLUMNS.reduce(blank) do |now, column|
      Loomshuttle::Patch::RunStraight.edit(now, column: column, first: 1, count: count, start: 1).apply(now).first
    end
    set(show, (1..count).flat_map { |n| [["channel/#{n}/name", "Source #{n}"], ["track/#{n}/name", "Source #{n}"], ["track/#{n}/armed", true]] }.to_h)
  end

  def set(show, settings) = Loomshuttle::Patch::Edit.set("test", settings).apply(show).first

  def findings(show) = Loomshuttle::Checks.run(Loomshuttle::Checks::Context.of(show))

  def sine(frames:, amplitude: 1.0, frequency: 997.0, rate: 48_000)
    time = Numo::DFloat.new(frames).seq / rate
    (Numo::NMath.sin(time * (2 * Math::PI * frequency)) * amplitude).reshape(frames, 1)
  end
end

RSpec.configure { |config| config.include(CoreHelp) }
