# frozen_string_literal: true

require "json"

# Shows to test on. They are built here from settings and never read from the demo, which may change.
module CoreHelp
  CATALOG = Loomshuttle::Rig::Catalog.read(File.join(Loomshuttle::ROOT, "profiles"))
  PROFILE = CATALOG.fetch("desk", "rowan-16")
  COLUMNS = %w[socket send track_input track_output return].freeze

  module_function

  def blank(desk = "rowan-16") = Loomshuttle::Settings::Show.blank(CATALOG, { name: "Test" }, desk: desk)

  # A desk that patches in blocks, with two boxes of 16 chained on port A.
  def chained(desk = "alder-40")
    set(blank(desk), "box/a/profile" => "bramble-16", "box/a/port" => "a", "box/a/place" => 1, "box/b/profile" => "bramble-16", "box/b/port" => "a",
                     "box/b/place" => 2, "box/b/input_offset" => 16, "box/b/output_offset" => 8)
  end

  # Channels 1 to count patched straight through to tracks and back, armed and named.
  def straight(count = 16, from: blank)
    show = COLUMNS.reduce(from) do |now, column|
      Loomshuttle::Steps::RunStraight.edit(now, column: column, first: 1, count: count, start: 1).apply(now).first
    end
    set(show, (1..count).flat_map { |n| [["channel/#{n}/name", "Source #{n}"], ["track/#{n}/name", "Source #{n}"], ["track/#{n}/armed", true]] }.to_h)
  end

  def point(name) = Loomshuttle::Rig::Point.of(name)

  # What is compared is read best by its names: points become theirs, however deep they stand.
  def named(value)
    case value
    when Loomshuttle::Rig::Point then value.name
    when Array then value.map { |one| named(one) }
    when Hash then value.to_h { |key, one| [named(key), named(one)] }
    else value
    end
  end

  def set(show, settings) = Loomshuttle::Settings::Edit.set("test", settings).apply(show).first

  def findings(show, **facts) = Loomshuttle::Checks.run(Loomshuttle::Checks::Context.of(show, **facts))

  # How many cells a column of choices has.
  def cells(show, column)
    case column
    when "socket_feeds" then show.layout.sources.size
    when "send", "tap" then show.sends.size
    when "track_input", "track_output" then show.tracks.size
    when "return_feeds" then show.profile.returns
    when "output_source", "output_expected" then show.outputs.size
    when "outlet" then show.outlets.size
    when "own_mix" then 1
    else show.channels.size
    end
  end

  # Settings of something that the sheet would offer, at random.
  def random_choice(show, random)
    column = Loomshuttle::Views::Choices::COLUMNS.keys.sample(random: random)
    Loomshuttle::Views::Choices.for(show, column, random.rand(1..cells(show, column))).sample(random: random).settings
  end

  def sine(frames:, amplitude: 1.0, frequency: 997.0, rate: 48_000)
    time = Numo::DFloat.new(frames).seq / rate
    (Numo::NMath.sin(time * (2 * Math::PI * frequency)) * amplitude).reshape(frames, 1)
  end
end

RSpec.configure { |config| config.include(CoreHelp) }
