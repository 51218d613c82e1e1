# frozen_string_literal: true

# Collections that people grow: adding, removing and moving an item are edits like any other. Shown on one that is declared here.
RSpec.describe Loomshuttle::Settings::Lists do
  before do
    settings = Loomshuttle::Settings
    words = ->(show, key) { ["Light #{key}", show.groups.fetch(:lights)[key]&.name].join(" ").strip }
    lights = settings.declare("light", :lights, :list, key: :number, words: words) do
      setting :name, settings::Kinds.text(20), blank: "", part: "names"
      setting :colour, settings::Kinds.one_of(*settings::DYES), blank: "iron", words: "dye"
    end
    allow(settings).to receive(:collections).and_return([*settings.collections, lights.collection])
  end

  let(:show) { set(blank, "light/order" => [1, 2, 3], "light/1/name" => "Bow", "light/2/name" => "Stern", "light/2/colour" => "weld") }

  def lights_of(show) = show.group(Loomshuttle::Settings.collection("light"))
  def apply(show, changes) = Loomshuttle::Settings::Edit.set("test", changes).apply(show)
  def undo(show, changes) = Loomshuttle::Settings::Edit.inverse("undo", changes).apply(show).first

  it "adds an item with its settings in one edit, and takes it back" do
    key, order = described_class.add(show, "light", at: 1)
    after, changes = apply(show, { "light/#{key}/name" => "Mast", **order })
    expect(lights_of(after).values.map(&:name)).to eq(["Bow", "Mast", "Stern", ""])
    expect(undo(after, changes)).to eq(show)
  end

  it "removes an item with its settings, and brings all of it back" do
    after, changes = apply(show, { "light/order" => [1, 3] })
    expect(lights_of(after).keys).to eq([1, 3])
    expect(changes.map(&:path)).to contain_exactly("light/order", "light/2/name", "light/2/colour")
    expect(lights_of(undo(after, changes))[2]).to have_attributes(name: "Stern", colour: "weld")
    expect(undo(after, changes)).to eq(show)
  end

  it "moves items, and knows their order again when it is loaded" do
    after, = apply(show, { "light/order" => [2, 3, 1] })
    expect(lights_of(after).keys).to eq([2, 3, 1])
    loaded = Loomshuttle::Settings::Show.load(after.catalog, after.about, after.set_settings)
    expect([loaded, lights_of(loaded).keys]).to eq([after, [2, 3, 1]])
    expect(after.set_settings).to include("light/order" => [2, 3, 1], "light/2/name" => "Stern")
    expect(after.set_settings.keys).not_to include("light/3/name")
  end

  it "comes through a change of the desk, and through a file" do
    after, changes = apply(show, { "rig/desk" => "hazel-56", "light/order" => [2, 1] })
    expect([after.rig.desk, lights_of(after).keys]).to eq(["hazel-56", [2, 1]])
    expect(undo(after, changes)).to eq(show)
    file = Loomshuttle::Formats::ShowFile.write(show, shipped: [])
    expect(Loomshuttle::Formats::ShowFile.read(file, show.catalog).show.settings).to eq(show.settings)
  end

  it "refuses an order that is none, and settings of an item that is not there" do
    [[1, 1], [0], "x", [1.5], nil].each { |order| expect { apply(show, { "light/order" => order }) }.to raise_error(Loomshuttle::Invalid, /\AShow, lights: the order is a list of different numbers/) }
    expect { apply(show, { "light/9/name" => "Far" }) }.to raise_error(Loomshuttle::Invalid, /no light 9/)
  end

  it "is told in words" do
    told = Loomshuttle::Settings::Telling.change(show, "light/order", [1], [2, 1])
    expect(told.to_h.values_at(:what, :field, :from, :to)).to eq(["Show", "lights", "Light 1 Bow", "Light 2 Stern, Light 1 Bow"])
    expect(Loomshuttle::Settings::Telling.setting(show, "light/2/colour")).to eq("Light 2 Stern, dye")
  end
end
