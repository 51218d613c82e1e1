# frozen_string_literal: true

# A hand at the running stand-in desk, and what can be done to it in its workshop.
RSpec.describe "The desk's workshop", :folder do
  let(:desk) { RunningDesk.new(@folder).tap(&:start) }
  let(:hand) { Loomshuttle::StandIns::Desk::Hand.new(desk.osc_port) }

  let(:failed) { Loomshuttle::StandIns::Desk::Hand::Failed }

  after { desk.stop }

  it "turns settings by hand: a number stays a number, and what does not fit is refused" do
    expect(hand.run("get", "strip/4/label")).to eq("Fiddle")
    expect(hand.run("set", "strip/4/gain", "20")).to eq(20.0)
    expect(hand.run("get", "strip/4/gain")).to eq(20.0)
    expect(hand.run("set", "strip/4/phantom", "0")).to eq(0)
    expect { hand.run("set", "strip/4/gain", "loud") }.to raise_error(failed, "loud is not a number.")
    expect { hand.run("set", "strip/4/gain", "99") }.to raise_error(failed, /The desk refuses: .*60/)
    expect { hand.run("get", "strip/99/gain") }.to raise_error(failed, %r{no strip/99})
    expect { hand.run("dance") }.to raise_error(failed, /A hand at the stand-in desk/)
  end

  it "lists every address, page by page" do
    all = hand.run("list", "").lines(chomp: true)
    expect(all.size).to be > 1000
    expect(all.uniq.size).to eq(all.size)
    expect(hand.run("list", "box/").lines(chomp: true)).to include("box/a/2/in-offset")
  end

  it "loses packets, and is still reached by who asks again" do
    expect { hand.run("loss", "95") }.to raise_error(failed, /0 to 90/)
    expect(hand.run("loss", "50")).to eq(50)
    expect(Array.new(3) { hand.run("get", "strip/1/label") }).to all(eq("Tuba"))
    lost = Array.new(16) { desk.ask("/get", "name") }.count(&:nil?)
    expect(lost).to be >= 5 # one in four comes through both ways
    hand.run("loss", "0")
  end

  it "starts again with what it was set to" do
    hand.run("set", "strip/4/label", "Great fiddle")
    session = desk.ask("/get", "session")
    hand.run("restart")
    desk.ended
    desk.start
    expect(hand.run("get", "strip/4/label")).to eq("Great fiddle")
    expect(desk.ask("/get", "session")).not_to eq(session)
  end

  it "has a hand on stage, too" do
    expect(hand.run("stage", "quiet", "all")).to eq("quiet all")
    expect { hand.run("stage", "dance", "in/1") }.to raise_error(failed, /quiet, sound, cable, turn/)
    expect { hand.run("stage", "quiet", "in/99") }.to raise_error(failed, %r{nobody plays into in/99})
  end

  it "stands in another rig, also of a kind that it has never heard of, and forgets its settings" do
    file = File.join(@folder, "other.json")
    expect { hand.run("rig", file) }.to raise_error(failed, /No such file/)
    File.write(file, "{}")
    expect { hand.run("rig", file) }.to raise_error(failed, /no rig/)
    own = JSON.parse(File.read(File.join(VirtualRig::PROFILES, "rowan-16.json"))).merge("id" => "rowan-17", "name" => "Rowan 17")
    File.write(file, JSON.generate(desk: "rowan-17", boxes: [], profiles: [own]))
    hand.run("rig", file)
    desk.ended
    desk.start
    expect([desk.ask("/get", "profile"), hand.run("get", "strip/4/label")]).to eq(["rowan-17", ""])
    expect(Loomshuttle::Formats::Sdp.read(File.read(File.join(@folder, "card-sends.sdp"))).sum(&:lanes)).to eq(20)
  end
end
