# frozen_string_literal: true

# Listeners, wishes and places: what is kept of them, and what is refused.
RSpec.describe Loomshuttle::Settings do
  let(:show) { set(blank("alder-40"), "listener/order" => [1], "wish/order" => [1]) }

  it "keeps listeners and wishes with the show, and takes all of one away and back" do
    full = set(show, "listener/1/name" => "Ada", "listener/1/hears" => %w[desk/output/5 desk/personal/1], "listener/1/x" => 1.25, "listener/1/y" => 30, "wish/1/kind" => "least",
                     "wish/1/db" => -6.5, "wish/1/sources" => ["channel/4"], "wish/1/listeners" => [1])
    expect(Loomshuttle::Settings::Show.load(full.catalog, full.about, full.set_settings).groups).to eq(full.groups)
    edit = Loomshuttle::Settings::Edit.set("Remove", "listener/order" => [])
    gone, changes = edit.apply(full)
    expect(gone.listeners).to be_empty
    back = Loomshuttle::Settings::Edit.inverse("Back", changes).apply(gone).first
    expect(back.groups).to eq(full.groups)
  end

  {
    "listener/1/hears" => [["desk/output/17"], ["desk/personal/17"], ["desk/bus/1"], %w[desk/output/1 desk/output/1], ["desk/output/1@pre-eq"], "desk/output/1", [1]],
    "listener/1/kind" => ["animal"], "listener/1/x" => [501, Float::NAN, "1", true], "output/1/y" => [-501, Float::INFINITY], "output/1/speaker" => ["wedge", false],
    "wish/1/db" => [-81, 21, nil, "x"], "wish/1/sources" => [["desk/ch/1"], ["channel/0"], [7], "channel/1", %w[channel/1 channel/1]],
    "wish/1/listeners" => [[0], ["1"], [1, 1], 1], "wish/1/kind" => [nil, "always"], "setup/temperature" => [51, -31, nil], "setup/later_ms" => [-1, 51]
  }.each do |path, values|
    values.each { |value| it("refuses #{value.inspect} for #{path}") { expect { set(show, path => value) }.to raise_error(Loomshuttle::Invalid) { |e| expect(e.where).to eq(path) } } }
  end

  it "keeps places to the centimetre and levels to a tenth" do
    kept = set(show, "listener/1/x" => 1.2345, "wish/1/db" => -6.04, "setup/temperature" => 21.26)
    expect([kept.get("listener/1/x"), kept.get("wish/1/db"), kept.get("setup/temperature")]).to eq([1.23, -6, 21.3])
  end
end
