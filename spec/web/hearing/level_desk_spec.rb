# frozen_string_literal: true

RSpec.describe Loomshuttle::Web::LevelDesk do
  let(:show) { HearingHelp.show }
  let(:seen) { Loomshuttle::Web::WhoHears::Seen.new(survey: Loomshuttle::Hearing::Survey.of(show, { "channel/1/fader" => -4.0 }), from: "desk", sheet: nil, version: 3, show_id: 7) }
  let(:who_hears) { instance_double(Loomshuttle::Web::WhoHears, now: seen, forget: nil, touch: nil) }
  let(:desk) { instance_double(Loomshuttle::Web::Desk::Link, set_all: {}) }
  let(:control) { instance_double(Loomshuttle::Web::Control, who_hears: who_hears, desk: desk, seen: instance_double(Loomshuttle::Web::Derived, id: 8, show: show)) }
  let(:sync) { instance_double(Loomshuttle::Web::Desk::Sync, away: nil) }
  let(:sheets) { instance_double(Loomshuttle::Store::LevelSheets, keep: 1) }
  let(:levels) { described_class.new(control, sheets: sheets, sync: sync) }

  # Another show may be opened between the look and the keeping.
  it "keeps how the desk is mixed with the show that was looked at" do
    expect(levels.keep(" Soundcheck ", "Ada")).to eq(1)
    expect(sheets).to have_received(:keep).with(7, name: "Soundcheck", desk: show.rig.desk, who: "Ada", values: seen.survey.values)
    expect(who_hears).to have_received(:forget)
  end

  it "keeps nothing without a name, or of a desk that cannot be read" do
    expect { levels.keep(" ", "Ada") }.to raise_error(Loomshuttle::Invalid, /needs a name/)
    allow(who_hears).to receive(:now).and_return(seen.with(from: "sheet"))
    expect { levels.keep("Now", "Ada") }.to raise_error(Loomshuttle::Invalid, /cannot be read/)
    expect(sheets).not_to have_received(:keep)
  end

  it "sets levels at the desk, and says what it did not take; none at a desk that is away" do
    allow(desk).to receive(:set_all).and_return({ "strip/1/fader" => "Fader 1 was not set." })
    expect(levels.press({ "channel/1/fader" => -10.0 })).to eq({ problems: ["Fader 1 was not set."] })
    allow(sync).to receive(:away).and_return("The desk is away.")
    expect { levels.press({ "channel/1/fader" => -10.0 }) }.to raise_error(Loomshuttle::Invalid, "The desk is away.")
    expect(desk).to have_received(:set_all).once
  end
end
