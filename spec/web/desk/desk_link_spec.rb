# frozen_string_literal: true

RSpec.shared_context "with a line to the desk" do
  before do
    set_desk
    link.start
    Tools.wait_until(60, "the desk") { link.up? }
  end

  after do
    link.stop
    desk.close
  end
end

# The line to the desk, against a desk in this process that can lose packets and restart.
RSpec.describe Loomshuttle::Web::Desk::Link do
  let(:desk) { SocketDesk.new }
  let(:heard) { [] }
  let(:link) { described_class.new(desk.port, on_change: ->(*) {}, on_meters: ->(peaks, rms) { heard << [peaks, rms] }) }

  include_context "with a line to the desk"

  def set_desk = desk.settings.set("strip/1/label", "Tuba")

  it "mirrors all of the desk's settings, and follows what others change" do
    expect(link.mirror).to eq(desk.values)
    expect([link.profile, link.boxes]).to eq(["rowan-16", ""])
    desk.turn("strip/2/hears", "take")
    Tools.wait_until(5, "the change") { link.mirror["strip/2/hears"] == "take" }
  end

  it "finds a change within a second although the word of it was lost" do
    desk.lose_answers = 2 # the hand's answer, and the word to us
    desk.turn("strip/2/hears", "take")
    Tools.wait_until(5, "the change") { link.mirror["strip/2/hears"] == "take" }
  end

  it "sets many and reads each back" do
    values = (1..16).to_h { |n| ["strip/#{n}/gain", n.to_f] }
    expect(link.set_all(values)).to eq({})
    expect(values.keys.to_h { |address| [address, desk.settings.get(address)] }).to eq(values)
    expect(link.mirror.slice(*values.keys)).to eq(values)
  end

  it "sets all the same when a third of all packets are lost, both ways" do
    desk.loss = 33
    values = (1..16).flat_map { |n| [["strip/#{n}/gain", 20.0 + n], ["strip/#{n}/label", "Name #{n}"]] }.to_h
    expect(link.set_all(values)).to eq({})
    expect(desk.values.slice(*values.keys)).to eq(values)
    expect(link).to be_up
  end

  it "passes on why the desk refuses, setting by setting, and sets the rest" do
    failed = link.set_all("strip/1/gain" => 99.0, "strip/2/gain" => 12.0, "strip/99/gain" => 1.0)
    expect(failed).to match("strip/1/gain" => %r{refuses strip/1/gain: a number from 0 to 60}, "strip/99/gain" => %r{no strip/99})
    expect(desk.settings.get("strip/2/gain")).to eq(12.0)
  end

  it "notices when the desk keeps something else" do
    desk.settings.instance_variable_get(:@kinds)["strip/3/label"] = lambda(&:upcase)
    expect(link.set_all("strip/3/label" => "Fiddle")).to match("strip/3/label" => /keeps "FIDDLE" .* instead of "Fiddle"/)
  end

  it "hears meters as channels in order" do
    desk.tell_meters([-1200, -1500, -300, -900])
    Tools.wait_until(60, "meters") { heard.any? }
    expect(heard.first).to eq([[-12.0, -3.0], [-15.0, -9.0]])
  end

  it "reads everything again from a desk that restarted" do
    desk.restart
    Tools.wait_until(60, "the new desk") { link.mirror["strip/1/label"] == "" }
    expect(link).to be_up
  end

  it "says after a while that the desk is away, and that it is back" do
    desk.lose_requests = 1_000_000
    Tools.wait_until(60, "the loss") { !link.up? }
    desk.lose_requests = 0
    Tools.wait_until(60, "the return") { link.up? }
  end
end

RSpec.describe Loomshuttle::Web::Desk::Sync do
  let(:show) { straight(4) }
  let(:desk) { SocketDesk.new }
  let(:link) { Loomshuttle::Web::Desk::Link.new(desk.port, on_change: ->(*) {}, on_meters: ->(*) {}) }
  let(:sync) { described_class.new(link) }

  include_context "with a line to the desk"

  def set_desk = in_step
  def in_step = Loomshuttle::Web::Desk::FromPlan.settings(show).each { |address, value| desk.settings.set(address, value) }
  def differing = sync.differences(show).map { |one| [one.path, one.plan, one.desk] }

  it "finds nothing where plan and desk are equal" do
    expect(differing).to eq([])
  end

  it "tells each difference in the plan's words, and reads the desk into the plan" do
    desk.turn("strip/1/take", "")
    desk.turn("card/send/2/from", "main/l")
    desk.turn("card/send/2/tap", "post-fader")
    Tools.wait_until(60, "all of them") { differing.size == 3 }
    expect(differing).to contain_exactly(["channel/1/take", "card/return/1", nil], ["send/2/source", "desk/ch/2", "desk/main/l"], ["send/2/tap", nil, "post-fader"])
    changed, = sync.read_edit(show).apply(show)
    expect([changed.channels[1].take, changed.point_of(changed.sends[2])]).to eq([nil, point("desk/main/l@post-fader")])
    part, = sync.read_edit(show, ["channel/1/take"]).apply(show)
    expect([part.channels[1].take, part.sends[2].source]).to eq([nil, point("desk/ch/2")])
  end

  it "follows an edit, and leaves alone what was changed by hand" do
    desk.turn("strip/2/gain", 33.0)
    Tools.wait_until(60, "the hand") { differing.any? }
    after = set(show, "channel/1/gain" => 20, "channel/2/gain" => 12)
    expect(sync.follow(show, after)).to match([%r{changed by hand at strip/2/gain; it was left as is}])
    expect([1, 2].map { |n| desk.settings.get("strip/#{n}/gain") }).to eq([20.0, 33.0])
  end

  it "follows an edit that was made while the desk was gone for a moment" do
    desk.lose_requests = 1_000_000
    Tools.wait_until(60, "the loss") { !link.up? }
    following = Thread.new { sync.follow(show, set(show, "channel/1/gain" => 20)) }
    desk.lose_requests = 0
    expect([following.value, desk.settings.get("strip/1/gain")]).to eq([[], 20.0])
  end

  it "leaves alone what a hand has changed at the desk while it was gone" do
    desk.lose_requests = 1_000_000
    Tools.wait_until(60, "the loss") { !link.up? }
    desk.settings.set("strip/1/gain", 33.0)
    following = Thread.new { sync.follow(show, set(show, "channel/1/gain" => 20)) }
    desk.lose_requests = 0
    expect([following.value, desk.settings.get("strip/1/gain")]).to match([[%r{changed by hand at strip/1/gain}], 33.0])
  end

  it "leaves every preamp as planned where two channels change places, though a channel that comes to a socket finds it as it is set there" do
    before = set(show, "channel/1/phantom" => true, "channel/1/gain" => 30, "channel/2/gain" => 12)
    expect(sync.follow(show, before)).to eq([])
    after = set(before, "channel/1/stage" => "desk/in/2", "channel/2/stage" => "desk/in/1")
    expect(sync.follow(before, after)).to eq([])
    expect(sync.differences(after)).to eq([])
    expect([1, 2].map { |n| %w[gain phantom].map { |knob| desk.settings.get("strip/#{n}/#{knob}") } }).to eq([[30.0, 1], [12.0, 0]])
    expect(sync.send_plan(before)).to eq([])
    expect(sync.differences(before)).to eq([])
  end

  it "says so where the desk stays away" do
    desk.lose_requests = 1_000_000
    Tools.wait_until(60, "the loss") { !link.up? }
    expect(sync.follow(show, set(show, "channel/1/gain" => 20))).to match([/can be sent later/])
  end

  it "lets a desk wait for the plan to be sent, but not for a flip" do
    waiting = set(show, "setup/desk_follows" => "when sent")
    after = set(waiting, "channel/1/gain" => 20, "channel/3/position" => "take")
    expect(sync.follow(waiting, after)).to eq([])
    expect([desk.settings.get("strip/1/gain"), desk.settings.get("strip/3/hears")]).to eq([0.0, "take"])
  end

  it "sends the plan, whole or in part" do
    planned = set(show, "channel/1/gain" => 20, "channel/2/gain" => 21, "channel/3/name" => "Fiddle")
    expect(sync.send_plan(planned, ["channel/2/gain"])).to eq([])
    expect([1, 2].map { |n| desk.settings.get("strip/#{n}/gain") }).to eq([0.0, 21.0])
    expect(sync.send_plan(planned)).to eq([])
    expect(sync.differences(planned)).to eq([])
  end

  it "brings a desk into step that loses packets and restarts half-way, forgetting what it was told" do
    planned = set(show, (1..16).flat_map { |n| [["channel/#{n}/gain", n], ["channel/#{n}/name", "Player #{n}"]] }.to_h)
    old = desk.values
    desk.loss = 20
    desk.after(20) { desk.restart(keep: old, away: 30) }
    expect(sync.send_plan(planned)).to eq([])
    expect(Loomshuttle::Web::Desk::FromPlan.settings(planned).reject { |address, value| desk.settings.get(address) == value }).to eq({})
  end

  it "sends on after a refusal, and says what could not be set" do
    desk.settings.instance_variable_get(:@kinds)["strip/1/label"] = ->(_) { raise Loomshuttle::StandIns::Desk::Settings::Refused, "no more names" }
    problems = sync.send_plan(set(show, "channel/1/name" => "Tuba", "channel/1/gain" => 9))
    expect(problems).to match([%r{refuses strip/1/label: no more names}])
    expect(desk.settings.get("strip/1/gain")).to eq(9.0)
  end

  it "keeps the plan when the desk is away, or is another one" do
    other = blank("alder-40")
    expect([sync.differences(other), sync.stranger(other)]).to eq([nil, "rowan-16"])
    expect(sync.send_plan(other)).to eq(["The desk is the Rowan 16, and the plan is for the Alder 40; nothing was sent."])
    allow(link).to receive(:up?).and_return(false)
    expect(sync.differences(show)).to be_nil
    expect(sync.send_plan(show)).to match([/can be sent later/])
    expect { sync.read_edit(show) }.to raise_error(Loomshuttle::Invalid, /does not answer/)
  end
end

RSpec.describe Loomshuttle::Web::Desk::FromPlan do
  # Every desk's plan, said in its words and set at a stand-in of the same rig, reads back as the same plan.
  it "says every setting of a plan in words that a desk takes, and understands them back, on random rigs" do
    20.times do |seed|
      random_rig = RandomRig.new(seed)
      show = random_rig.show
      desk = Loomshuttle::StandIns::Desk::Settings.new(VirtualRig.model(random_rig.rig))
      described_class.settings(show).each { |address, value| desk.set(address, value) }
      read = Loomshuttle::Web::Desk::ToPlan.settings(show, desk.addresses.to_h { |address| [address, desk.get(address)] })
      expect(read.reject { |path, value| show.get(path) == value }).to eq({}), "seed #{seed}"
      expect(read.keys).to include("channel/1/stage", "channel/1/position", "send/1/tap", "output/1/source", "setup/card_mode")
    end
  end

  it "has the demo desk in step with the demo show" do
    data = JSON.parse(File.read(File.join(Loomshuttle::ROOT, "demo", "show.json")))
    show = Loomshuttle::Formats::ShowFile.read(data, CoreHelp::CATALOG).show
    desk = Loomshuttle::StandIns::Desk::Settings.new(VirtualRig.model(JSON.parse(File.read(File.join(Loomshuttle::ROOT, "demo", "rig.json")))))
    Loomshuttle::StandIns::Desk::Memory.new("/nowhere", desk, first: File.join(Loomshuttle::ROOT, "demo", "desk.json"))
    expect(described_class.settings(show).reject { |address, value| desk.get(address) == value }).to eq({})
  end
end
