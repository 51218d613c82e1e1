# frozen_string_literal: true

RSpec.describe Loomshuttle::Store::Profiles do
  let(:profiles) { described_class.new(TestDatabase.empty, CoreHelp::CATALOG) }
  let(:box) { CoreHelp::CATALOG.fetch("box", "bramble-16").to_json_data.merge("id" => "nettle-16") }

  it "keeps a user's profile beside those that ship, and finds it again" do
    profiles.keep(box)
    again = described_class.new(TestDatabase.instance_variable_get(:@connection), CoreHelp::CATALOG)
    expect(again.catalog.fetch("box", "nettle-16").to_json_data).to eq(box)
    expect([again.shipped?("nettle-16"), again.shipped?("alder-40")]).to eq([false, true])
  end

  it "replaces one that nobody uses, and deletes it" do
    profiles.keep(box)
    profiles.keep(box.merge("name" => "Other"))
    expect(profiles.catalog.fetch("box", "nettle-16").name).to eq("Other")
    profiles.delete("nettle-16")
    expect(profiles.catalog.ids("box")).not_to include("nettle-16")
    expect { profiles.delete("nettle-16") }.to raise_error(Loomshuttle::Invalid, /no profile/)
  end
end

RSpec.describe Loomshuttle::Store::Presets do
  let(:presets) { described_class.new(TestDatabase.empty) }

  it "keeps settings of any kind under a name, which is used once" do
    presets.keep("Evening", %w[sends], { "track/1/inputs" => [1, 2], "send/1/tap" => nil, "track/1/armed" => true }, "Ada")
    id = presets.keep("Evening", %w[names], { "channel/1/name" => "Tuba", "setup/accepted" => { "a" => "b" } }, "Bram")
    expect(presets.list).to match([include(name: "Evening", parts: %w[names], who: "Bram", count: 2)])
    expect(presets.find(id)[:settings]).to eq("channel/1/name" => "Tuba", "setup/accepted" => { "a" => "b" })
    presets.delete(id)
    expect { presets.find(id) }.to raise_error(Loomshuttle::Invalid, /no preset/)
  end
end

RSpec.describe Loomshuttle::Store::DeskCopies do
  let(:database) { TestDatabase.empty }
  let(:show) { Loomshuttle::Store::Shows.new(database, CoreHelp::CATALOG).create({ name: "x" }, "rig/desk" => "rowan-10") }
  let(:copies) { described_class.new(database) }

  it "keeps the newest copies of a desk, with what they hold" do
    ids = Array.new(described_class::KEPT + 3) do |n|
      copies.keep(show, desk: "rowan-10", label: "copy #{n}", who: "Ada", values: { "strip/1/gain" => n.to_f, "strip/1/label" => "é" })
    end
    expect(copies.list(show).map { |copy| copy[:id] }).to eq(ids.last(described_class::KEPT).reverse)
    expect(copies.find(show, ids.last)[:values]).to eq("strip/1/gain" => 22.0, "strip/1/label" => "é")
    expect { copies.find(show, ids.first) }.to raise_error(Loomshuttle::Invalid, /no copy/)
  end
end
