# frozen_string_literal: true

# A socket has one preamp, however many channels hear it.
RSpec.describe Loomshuttle::Settings::SharedPreamp do
  def preamps(show, *numbers) = numbers.map { |number| show.channels[number].then { |channel| [channel.gain, channel.phantom] } }

  # As a version kept it that let channels of one socket differ.
  def of_old(differing)
    Loomshuttle::Settings::Show.load(CoreHelp::CATALOG, straight.about, straight.set_settings.merge(differing))
  end

  let(:first) { straight.channels[1].stage.name }
  let(:twice) { set(straight, "channel/11/stage" => first) }

  it "sets gain and 48 V of all channels at a socket, whichever of them is set" do
    show = set(set(twice, "channel/11/gain" => 20), "channel/1/phantom" => true)
    expect(preamps(show, 1, 11)).to eq([[20, true]] * 2)
  end

  it "lets a channel that comes to a socket find the preamp as it is set there, and leaves everybody else's alone" do
    show = set(straight, "channel/1/gain" => 20, "channel/1/phantom" => true, "channel/11/gain" => 35)
    show = set(show, "channel/11/stage" => first)
    expect(preamps(show, 1, 11, 2)).to eq([[20, true], [20, true], [0, false]])
  end

  it "takes what an edit sets along with the patch" do
    show = set(straight, "channel/1/gain" => 20)
    expect(preamps(set(show, "channel/11/stage" => first, "channel/11/gain" => 35), 1, 11)).to eq([[35, false]] * 2)
  end

  it "is undone with the edit" do
    before = set(straight, "channel/1/gain" => 20, "channel/11/gain" => 35)
    after, changes = Loomshuttle::Settings::Edit.set("patch", "channel/11/stage" => first).apply(before)
    expect(changes.map(&:path)).to contain_exactly("channel/11/stage", "channel/11/gain")
    expect(Loomshuttle::Settings::Edit.inverse("back", changes).apply(after).first).to eq(before)
  end

  it "leaves each its own once they hear different sockets again" do
    show = set(set(twice, "channel/1/gain" => 20), "channel/11/stage" => straight.channels[11].stage.name)
    expect(preamps(set(show, "channel/11/gain" => 7), 1, 11)).to eq([[20, false], [7, false]])
  end

  it "reads an old show as it was kept, counts what its lowest channel says, and says so with what mends it" do
    show = of_old("channel/11/stage" => first, "channel/1/gain" => 20, "channel/1/phantom" => true, "channel/11/gain" => 35)
    expect(preamps(show, 1, 11)).to eq([[20, true], [35, false]])
    expect(preamps(described_class.settled(show), 1, 11)).to eq([[20, true]] * 2)

    finding = findings(show).find { |one| one.check == "preamp-set-twice" }
    expect(finding.sentence).to eq("#{Loomshuttle::Rig::Label.for(show.layout.socket_of(show.channels[1].stage))} has one preamp with 2 conflicting settings: " \
                                   "+20 dB with 48 V for channel 1 Source 1; +35 dB for channel 11 Source 11. The first applies.")
    mended = finding.fix.apply(show).first
    expect(preamps(mended, 1, 11)).to eq([[20, true]] * 2)
    expect(findings(mended).map(&:check)).not_to include("preamp-set-twice")
  end

  it "tells the same everywhere while an old show is not mended" do
    show = of_old("channel/11/stage" => first, "channel/1/gain" => 20, "channel/1/phantom" => true, "channel/11/gain" => 35)
    into = Loomshuttle::Signal.build(show).joins.find { |join| join.to.name == "desk/ch/11@preamp" }
    expect(Loomshuttle::Signal::Levels.planned(show).gain_db(into)).to eq(20)
    expect(Loomshuttle::LineCheck::Sources.of(show).select { |one| [1, 11].include?(one.number) }.map { |one| [one.gain, one.phantom] }).to eq([[20, true]] * 2)
    desk = Loomshuttle::Views::Sheets.of(show).find { |table| table.title == "Desk by channel" }
    expect(desk.rows.select { |row| %w[1 11].include?(row[0]) }.map { |row| row[3] }).to eq(["+20 dB", "+20 dB, with 1"])
  end

  it "keeps to each range where a stereo line input has the socket of a microphone" do
    show = blank("rowan-16")
    show = set(show, "channel/1/stage" => "desk/line/1", "channel/17/stage" => "desk/line/1", "channel/1/gain" => 50)
    expect([show.channels[1].gain, show.channels[17].gain]).to eq([50, 0])
    expect(set(show, "channel/17/gain" => 10).channels[1].gain).to eq(10)
  end
end
