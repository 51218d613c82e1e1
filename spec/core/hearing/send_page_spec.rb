# frozen_string_literal: true

RSpec.describe Loomshuttle::Hearing::SendPage do
  def page(changed, levels, bus) = described_class.of(HearingHelp.survey(HearingHelp.show(changed), levels), bus)

  it "lists the channels in use with their levels as the desk has them" do
    rows = page({ "channel/2/send_taps" => { "1" => "post-eq" } }, { "channel/1/send/1" => -9, "channel/2/send/1" => -90, "channel/2/mute" => true }, 1)
    expect(rows.map { |row| row.to_h.slice(:channel, :title, :name, :db, :off, :tap, :muted) }).to eq(
      [{ channel: 1, title: "Fiddle", name: "channel/1/send/1", db: -9, off: false, tap: "pre-fader", muted: false },
       { channel: 2, title: "Click", name: "channel/2/send/1", db: -90, off: true, tap: "post-eq", muted: true }]
    )
  end

  it "says of the right side of a pair what the left one has" do
    expect(page({ "bus/1/paired" => true }, { "channel/1/send/1" => -4 }, 2).first).to have_attributes(name: "channel/1/send/1", db: -4)
  end

  it "knows no level without the desk, and none of a subgroup" do
    blind = Loomshuttle::Hearing::Survey.of(HearingHelp.show, {})
    expect(described_class.of(blind, 1).map { |row| [row.db, row.off, row.muted] }.uniq).to eq([[nil, false, false]])
    expect { page({ "bus/3/mode" => "subgroup", "bus/3/name" => "Brass" }, {}, 3) }
      .to raise_error(Loomshuttle::Invalid, "Bus 3 Brass is a subgroup: its members have no send levels.")
    expect { page({}, {}, 77) }.to raise_error(Loomshuttle::Invalid, /no bus 77/)
  end
end
