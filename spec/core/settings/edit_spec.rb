# frozen_string_literal: true

RSpec.describe Loomshuttle::Settings::Edit do
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
    expect(mixed.point_of(mixed.sends[1])).to eq(point("desk/main/l@post-fader"))
    back, = described_class.inverse("back", changes).apply(mixed)
    expect(back.point_of(back.sends[1])).to eq(point("desk/ch/1@preamp"))
  end

  it "changes a track's width together with its lanes" do
    show = straight
    wide = described_class.set("x", "track/1/stereo" => true, "track/1/inputs" => [1, 2], "track/1/outputs" => [1, 2])
    changed, changes = wide.apply(show)
    expect(changed.tracks[1].inputs).to eq([1, 2])
    expect(described_class.inverse("back", changes).apply(changed).first).to eq(show)
  end

  it "gives the same show back after apply and undo, over random edits of random rigs" do
    12.times do |seed|
      random_rig = RandomRig.new(seed)
      show, random = random_rig.show, random_rig.random
      20.times do
        changed, changes = random_edit(show, random).apply(show)
        expect(described_class.inverse("undo", changes).apply(changed).first).to eq(show), "seed #{seed}"
        show = changed
      rescue Loomshuttle::Invalid
        next # more than this desk can do
      end
    end
  end

  # One to three of the choices that the sheet would offer, of one kind, with what moves along.
  def random_edit(show, random)
    settings = Array.new(random.rand(1..3)) { random_choice(show, random) }
    together = settings.reduce({}) { |all, one| all.keys.concat(one.keys).grep(%r{\Asend/}).size > 1 ? all : all.merge(one) }
    described_class.set("random", Loomshuttle::Steps::Completed.settings(show, together, moving: %w[slot block].sample(random: random)))
  end
end
