# frozen_string_literal: true

# Steps by the API: looked at first, then taken.
RSpec.describe Loomshuttle::Web::ComputedEdits, :folder do
  include_context "with the API"

  let(:first_show) { straight(20, from: chained) }

  def preview(kind, options = {}) = tell("/api/steps/preview", kind: kind, options: options)
  def take(kind, options = {}) = tell("/api/steps", kind: kind, options: options)

  it "previews what removing a box would break, in words, and changes nothing" do
    seen = preview("remove_box", "box" => "b")
    expect(seen["losses"].map { |loss| [loss["name"], loss["lost"]] }).to eq((17..20).map { |n| ["Channel #{n} Source #{n}", ["its socket"]] })
    expect(seen["changes"].first.values_at("what", "field", "from", "to")).to eq(["Box B", "profile", "Bramble 16", "none"])
    expect(seen["findings_new"]).to include(/Source 17 .* no box on port A reaches lane 17/)
    expect(show["version"]).to eq(1)
  end

  it "takes exactly what was previewed" do
    seen = preview("settings", "settings" => { "channel/3/stage" => "desk/in/3" }, "moving" => "block")
    expect(seen["changes"].size).to eq(8)
    tell("/api/edits", version: seen["version"], label: seen["label"], settings: seen["settings"])
    expect(show["channels"].first(8).map { |channel| channel["stage"] }).to eq((1..8).map { |n| "desk/in/#{n}" })
  end

  it "sets both sides of a pair by one setting, and several settings as they are" do
    tell("/api/edits", settings: { "channel/1/paired" => true })
    sides = -> { show["channels"].first(2).map { |channel| channel["polarity"] } }
    tell("/api/edits", settings: { "channel/2/polarity" => true })
    expect(sides.call).to eq([true, true])
    tell("/api/edits", settings: { "channel/1/polarity" => false, "channel/1/name" => "Keys L" })
    expect(sides.call).to eq([false, true])
    tell("/api/undo")
    tell("/api/undo")
    expect(sides.call).to eq([false, false])
  end

  it "reads an input list with the report of what it did not understand, whole or in part" do
    text = "channel,name,socket,48v\n21,Guest,B 5,yes\n22,Ghost,Z 9,perhaps\n"
    seen = preview("input_list", "text" => text)
    expect(seen["problems"].map { |one| one.values_at("group", "where", "message") }).to eq(
      [["1 row asks for a socket that this rig does not have", "line 3", "there is no socket \"Z 9\" in this rig; a free one can be proposed"],
       ["1 cell is not understood", "line 3", "\"perhaps\" says neither yes nor no to 48 V; it stays off"]]
    )
    expect(seen["parts"].reject { |part| part["kind"] == "removed" }.map { |part| part["title"] }).to eq(%w[Guest Ghost])
    take("input_list", "text" => text, "only" => ["Guest"])
    expect(show["channels"].values_at(20, 21).map { |channel| channel.values_at("name", "stage", "phantom") }).to match([["Guest", "link/a/up/21", true], ["", anything, false]])
  end

  it "accepts a finding with a reason, which is kept and shown, and opens it again" do
    tell("/api/edits", settings: { "bus/3/name" => "Drum fill" })
    id = show["findings"].first["id"]
    take("accept", "finding" => id, "reason" => "headphones at the desk")
    expect(show["findings"].first).to include("id" => id, "accepted" => "headphones at the desk")
    expect(ask("/api/state")["findings"]).to eq("blocks" => 0, "look" => 0, "accepted" => 1)
    take("reopen", "finding" => id)
    expect(ask("/api/state")["findings"]).to include("look" => 1)
    expect(tell("/api/steps", { kind: "accept", options: { finding: "none", reason: "x" } }, 422)["error"]["message"]).to include("no finding none")
    expect(tell("/api/steps", { kind: "accept", options: { finding: id, reason: " " } }, 422)["error"]["message"]).to include("needs a reason")
  end

  it "returns to any earlier version, over a change of the desk" do
    before = show
    take("desk", "desk" => "rowan-16")
    tell("/api/edits", settings: { "channel/17/name" => "Interval music" })
    expect(preview("version", "version" => 1)["changes"].map { |change| change["path"] }).to include("rig/desk", "channel/17/name")
    take("version", "version" => 1)
    after = show
    expect(after.slice("channels", "sends", "tracks", "setup")).to eq(before.slice("channels", "sends", "tracks", "setup"))
    expect([after["version"], after["undo"]]).to eq([4, "Restore version 1"])
  end

  it "saves every part that there is, the mix too" do
    tell("/api/presets", name: "All", parts: Loomshuttle::Settings::PresetParts::NAMES)
    id = tell("/api/presets", name: "Mix", parts: ["mix"])["id"]
    tell("/api/edits", settings: { "channel/1/main" => false })
    take("preset", "preset" => id)
    expect(show["channels"].first["main"]).to be(true)
  end

  it "saves parts of a patch and recalls them, in part too, with a preview" do
    id = tell("/api/presets", name: "Evening", parts: %w[sends names])["id"]
    tell("/api/edits", settings: { "channel/1/name" => "X", "send/2/tap" => "post-eq" })
    expect(preview("preset", "preset" => id)["changes"].map { |change| change["path"] }).to contain_exactly("channel/1/name", "send/2/tap")
    take("preset", "preset" => id, "parts" => ["names"])
    expect([show["channels"][0]["name"], show["sends"][1]["tap"]]).to eq(["Source 1", "post-eq"])
    take("preset", "preset" => id)
    expect(show["sends"][1]["tap"]).to be_nil
    expect(ask("/api/presets").map { |preset| preset.values_at("name", "parts") }).to eq([["Evening", %w[sends names]]])
    delete("/api/presets/#{id}", "{}", "CONTENT_TYPE" => "application/json")
    answer
    expect(ask("/api/presets")).to eq([])
  end

  it "compares any two in words" do
    preset = tell("/api/presets", name: "Before", parts: ["names"])["id"]
    tell("/api/edits", settings: { "channel/1/name" => "Tuba", "channel/1/gain" => 12 })
    other = tell("/api/shows", about: { name: "Next" }, like: 1)["id"]
    paths = lambda do |one, two|
      ask("/api/compare?one=#{one}&other=#{two}")["changes"].map { |change| change.values_at("path", "from", "to") }
    end
    expect(paths.call("version/1", "now")).to eq([["channel/1/name", "Source 1", "Tuba"], ["channel/1/gain", "0 dB", "12 dB"]])
    expect(paths.call("now", "preset/#{preset}")).to eq([["channel/1/name", "Tuba", "Source 1"]])
    expect(paths.call("now", "show/#{other}")).to eq([])
    get("/api/compare?one=now&other=desk")
    expect(answer(422)["error"]["message"]).to include("does not answer")
  end
end
