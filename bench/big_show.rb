# frozen_string_literal: true

require_relative "support"

# Shows of any size: a desk made from the Rowan 16's profile, patched straight through, every track armed.
module BigShow
  CATALOG = Loomshuttle::Rig::Catalog.read(File.join(Loomshuttle::ROOT, "profiles"))
  COLUMNS = %w[socket send track_input track_output return].freeze

  module_function

  # @return [Hash] the profile's JSON
  def profile(channels)
    data = JSON.parse(JSON.generate(CATALOG.fetch("desk", "rowan-16").to_json_data))
    data.merge!("id" => "bench-#{channels}", "name" => "Bench #{channels}", "buses" => 16)
    data["inputs"] = [{ "prefix" => "in", "label" => "In", "count" => channels }]
    data["channels"] = [data["channels"].first.merge("count" => channels)]
    data["card"].merge!("sends" => channels, "returns" => channels, "modes" => [{ "id" => "all", "lanes" => channels }])
    data
  end

  def blank(channels)
    desk = Loomshuttle::Rig::Profile.from(profile(channels))
    Loomshuttle::Settings::Show.blank(CATALOG.with([desk]), { name: "Bench" }, desk: desk.id)
  end

  def straight(channels)
    show = COLUMNS.reduce(blank(channels)) { |now, column| Loomshuttle::Steps::RunStraight.edit(now, column: column, first: 1, count: channels, start: 1).apply(now).first }
    named = (1..channels).flat_map { |n| [["channel/#{n}/name", "Source #{n}"], ["track/#{n}/armed", true]] }.to_h
    Loomshuttle::Settings::Edit.set("name and arm", named).apply(show).first
  end
end
