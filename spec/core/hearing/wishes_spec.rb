# frozen_string_literal: true

# Requirements, whether it is so, and what would make it so.
RSpec.describe Loomshuttle::Hearing::Wishes do
  let(:mix) { { "channel/1/fader" => -4, "channel/1/send/1" => -9, "channel/2/send/2" => -7 } }

  def show(wish, changed = {}) = HearingHelp.show(changed.merge(wish))
  def wish(...) = HearingHelp.wish(...)
  def results(show, mixed) = described_class.of(HearingHelp.survey(show, mixed))
  def found(show, mixed) = Loomshuttle::Checks.heard(HearingHelp.survey(show, mixed)).select { |finding| finding.check == "broken-wish" }

  # Everything is well after the fix.
  def mended?(show, mixed)
    fix = found(show, mixed).first.fix
    show, mixed = fix.is_a?(Loomshuttle::Hearing::Press) ? [show, mixed.merge(fix.values)] : [fix.apply(show).first, mixed]
    found(show, mixed).empty?
  end

  {
    ["reach", "channel/1", 2] => true, ["reach", "channel/1", 3] => false, ["never", "channel/2", 1] => true, ["never", "channel/1", 1] => false,
    ["least", "channel/1", 2, -9] => true, ["least", "channel/1", 2, -8.9] => false, ["most", "channel/1", 2, -9] => true, ["most", "channel/1", 2, -9.1] => false,
    ["least", "channel/2", 2, -60] => false, ["most", "channel/2", 2, -60] => true
  }.each do |arguments, kept|
    it("is #{kept ? 'kept' : 'broken'}: #{arguments.join(' ')}") { expect(results(show(wish(*arguments)), mix).map(&:kept)).to eq([kept]) }
  end

  # Below -80 dB somebody hears nothing.
  it "calls inaudible what is below -80 dB" do
    quiet = mix.merge("channel/1/fader" => -89)
    expect(results(show(wish("never", "channel/1", 1)), quiet).first).to have_attributes(kept: true)
    expect(results(show(wish("reach", "channel/1", 1)), quiet).first).to have_attributes(kept: false)
  end

  it "asks it of each source for each listener, and leaves out who is gone" do
    many = show({ "wish/order" => [4], "wish/4/kind" => "never", "wish/4/sources" => %w[channel/1 channel/2 channel/40], "wish/4/listeners" => [1, 3, 77] })
    expect(results(many, mix).map { |one| [one.source, one.listener, one.kept] })
      .to eq([["channel/1", 1, false], ["channel/1", 3, true], ["channel/2", 1, true], ["channel/2", 3, false]])
  end

  it "says who hears what and what is wanted, shows the way, and raises exactly so far" do
    finding = found(show(wish("least", "channel/2", 3, -6)), mix).first
    expect(finding).to have_attributes(severity: "blocks", sentence: "Drummer hears Click at −7 dB but needs at least −6 dB.")
    expect(named(finding.path)).to eq(%w[desk/in/2 desk/ch/2@pre-fader desk/bus/2@post-fader desk/output/2 desk/out/2])
    expect(finding.fix).to have_attributes(label: "Raise it by 1 dB at the desk", values: { "channel/2/send/2" => -6.0 })
  end

  it "lowers, opens and closes at the desk what is a matter of levels" do
    expect(mended?(show(wish("most", "channel/1", 2, -20)), mix)).to be(true)
    shut = mix.merge("channel/1/send/1" => -90, "channel/1/mute" => true, "bus/1/fader" => -90)
    opened = found(show(wish("reach", "channel/1", 2)), shut).first.fix
    expect(opened.values).to eq("channel/1/send/1" => -20, "channel/1/mute" => false, "bus/1/fader" => 0)
    expect(mended?(show(wish("least", "channel/1", 2, -12)), shut)).to be(true)
    closed = found(show(wish("never", "channel/2", 3)), mix).first.fix
    expect(closed.values).to eq("channel/2/send/2" => -90)
  end

  it "changes the plan where it is a matter of routing" do
    leak = show(wish("never", "channel/2", 1), "bus/3/mode" => "subgroup", "bus/3/main" => true, "bus/3/name" => "Rhythm", "channel/2/groups" => [3])
    loud = mix.merge("channel/2/fader" => 0)
    finding = found(leak, loud).first
    expect(finding.sentence).to eq("PA hears Click at 0 dB but must not.")
    expect(named(finding.path)).to include("desk/bus/3@post-fader", "desk/main/l@post-fader")
    expect(finding.fix).to have_attributes(label: "Remove Click from subgroup Bus 3 Rhythm", settings: { "channel/2/groups" => [] })
    expect(mended?(leak, loud)).to be(true)
    expect(found(show(wish("never", "channel/1", 1)), mix).first.fix.settings).to eq("channel/1/main" => false)
    direct = show(wish("never", "return/7", 3), "output/2/source" => "card/return/7")
    expect(found(direct, mix).first.fix.settings).to eq("output/2/source" => nil)
  end

  it "adds ways up when it finds a level, and offers nothing where a fader does not go so far" do
    both = show(wish("least", "channel/1", 2, -3), "output/5/source" => "desk/bus/2", "listener/2/hears" => %w[desk/output/1 desk/output/5])
    expect(mended?(both, mix.merge("channel/1/send/2" => -20))).to be(true)
    expect(found(show(wish("least", "channel/1", 2, 15)), mix).first.fix).to be_nil
    expect(found(show(wish("reach", "channel/1", 3), "output/2/source" => nil), mix).first.fix).to be_nil
  end
end
