# frozen_string_literal: true

RSpec.describe Loomshuttle::Patch::Edit do
  it "tells what really changed, from what to what" do
    _, changes = described_class.set("x", "channel/1/name" => "Tuba", "channel/2/name" => "").apply(blank)
    expect(changes.map(&:to_h)).to eq([{ path: "channel/1/name", from: "", to: "Tuba" }])
  end

  it "changes nothing when one of its settings does not fit" do
    show = blank
    edit = described_class.set("x", "channel/1/name" => "Tuba", "channel/2/gain" => 99)
    expect { edit.apply(show) }.to raise_error(Loomshuttle::Invalid)
    expect(show.get("channel/1/name")).to eq("")
  end

  it "orders settings that depend on each other" do
    to_mix = described_class.set("x", "send/1/source" => "desk/main/l", "send/1/tap" => "post-fader")
    mixed, changes = to_mix.apply(straight)
    expect(mixed.sends[1].point).to eq("desk/main/l@post-fader")
    back, = described_class.inverse("back", changes).apply(mixed)
    expect(back.sends[1].point).to eq("desk/ch/1@preamp")
  end

  it "changes a track's width together with its lanes" do
    show = straight
    wide = described_class.set("x", "track/1/stereo" => true, "track/1/inputs" => [1, 2], "track/1/outputs" => [1, 2])
    changed, changes = wide.apply(show)
    expect(changed.tracks[1].inputs).to eq([1, 2])
    expect(described_class.inverse("back", changes).apply(changed).first).to eq(show)
  end

  it "gives the same show back after apply and undo, over random edits" do
    random = Random.new(7)
    show = straight
    200.times do
      edit = random_edit(show, random)
      changed, changes = edit.apply(show)
      expect(described_class.inverse("undo", changes).apply(changed).first).to eq(show)
      show = changed
    end
  end

  # One to three of the choices that the sheet would offer.
  def random_edit(show, random)
    settings = Array.new(random.rand(1..3)) do
      column = Loomshuttle::Patch::Choices::COLUMNS.keys.sample(random: random)
      Loomshuttle::Patch::Choices.for(show, column, random.rand(1..16)).sample(random: random).settings
    end
    described_class.set("random", settings.reduce({}) { |all, one| one.keys.any? { |path| path.start_with?("send/") } && all.any? ? all : all.merge(one) })
  end
end
