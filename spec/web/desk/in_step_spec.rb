# frozen_string_literal: true

# Plan and desk by the API, with a stand-in desk's control behind a real socket.
RSpec.describe Loomshuttle::Web::Desk::InStep, :folder do
  include_context "with the API"

  let(:desk) { SocketDesk.new({ "desk" => "alder-40", "boxes" => [{ "profile" => "bramble-16", "port" => "a" }] }) }
  let(:desk_port) { desk.port }
  let(:first_show) { set(straight(16, from: chained), "box/b/profile" => nil, "box/b/port" => nil) }

  before do
    desk.stand_as(first_show)
    control
    Tools.wait_until(60, "the desk") { control.desk.up? }
  end

  after { desk.close }

  def apart = ask("/api/state")["desk"]["apart"]
  def differences = ask("/api/desk")["differences"].map { |one| one.values_at("path", "plan", "desk") }

  it "lets the desk follow an edit on its own, also on a desk of blocks" do
    tell("/api/edits", settings: { "channel/3/stage" => "desk/in/3", "channel/3/gain" => 20 })
    Tools.wait_until(60, "the desk") { %w[strip/3/gain slot/1/strip slot/1/from].map { |address| desk.settings.get(address) } == [20.0, 3, "in/3"] }
    Tools.wait_until(60, "both in step") { apart == 0 }
  end

  it "leaves a channel in its free slot when another one takes or leaves one" do
    tell("/api/edits", settings: { "channel/5/stage" => "desk/in/5" }, wait: true)
    tell("/api/edits", settings: { "channel/3/stage" => "desk/in/3" }, wait: true)
    slots = -> { (1..3).map { |slot| [desk.settings.get("slot/#{slot}/strip"), desk.settings.get("slot/#{slot}/from")] } }
    expect(slots.call).to eq([[5, "in/5"], [3, "in/3"], [0, ""]])
    tell("/api/undo", wait: true)
    tell("/api/edits", settings: { "channel/5/stage" => first_show.channels[5].stage }, wait: true)
    expect(slots.call).to eq([[0, ""]] * 3)
    Tools.wait_until(60, "both in step") { apart == 0 } # the desk tells on its own what it was set to
  end

  it "shows a change at the desk within a second, and never overwrites it on its own" do
    desk.turn("strip/3/gain", 33.0)
    Tools.wait_until(5, "the difference") { apart == 1 }
    tell("/api/edits", settings: { "channel/3/gain" => 12 }, wait: true).then do |edited|
      expect(edited["desk_problems"]).to match([/changed by hand at strip.3.gain; it was left as is/])
    end
    expect(desk.settings.get("strip/3/gain")).to eq(33.0)
    expect(differences).to eq([["channel/3/gain", "12 dB", "33 dB"]])
  end

  it "sends the plan, keeps what it overwrote, and can be undone" do
    desk.turn("strip/3/gain", 33.0)
    desk.turn("strip/4/label", "By hand")
    Tools.wait_until(60, "the differences") { apart == 2 }
    sent = tell("/api/desk/send")
    expect(sent).to include("problems" => [], "copy" => be_positive)
    expect([apart, desk.settings.get("strip/3/gain")]).to eq([0, 0.0])
    expect(ask("/api/desk/copies/#{sent['copy']}").map do |one|
      one.values_at("path", "plan", "desk")
    end).to eq([["channel/4/name", "By hand", "Source 4"], ["channel/3/gain", "33 dB", "0 dB"]])
    tell("/api/desk/copies/#{sent['copy']}/restore")
    expect(desk.values.values_at("strip/3/gain", "strip/4/label")).to eq([33.0, "By hand"])
    expect(ask("/api/desk")["copies"].map { |copy| copy["label"] }).to eq(["before copy #{sent['copy']} was restored", "before the plan was sent"])
  end

  it "sends and reads only what is chosen" do
    desk.turn("strip/3/gain", 33.0)
    desk.turn("strip/4/gain", 44.0)
    Tools.wait_until(60, "the differences") { apart == 2 }
    tell("/api/desk/send", paths: ["channel/3/gain"])
    expect(desk.values.values_at("strip/3/gain", "strip/4/gain")).to eq([0.0, 44.0])
    tell("/api/desk/read", paths: ["channel/4/gain"], version: 1)
    expect([show["channels"][3]["gain"], apart]).to eq([44, 0])
    tell("/api/undo", wait: true)
    expect([show["channels"][3]["gain"], desk.settings.get("strip/4/gain")]).to eq([0, 0.0])
  end

  it "compares the plan, a copy and the desk" do
    desk.turn("strip/3/gain", 33.0)
    Tools.wait_until(60, "the difference") { apart == 1 }
    copy = tell("/api/desk/send")["copy"]
    changes = ask("/api/compare?one=copy/#{copy}&other=desk")["changes"]
    expect(changes.map { |change| change.values_at("path", "from", "to") }).to eq([["channel/3/gain", "33 dB", "0 dB"]])
    expect(ask("/api/compare?one=now&other=desk")["changes"]).to eq([])
  end

  it "tells when other boxes hang at the desk than planned, and lets a stand-in take on the rig" do
    tell("/api/steps", kind: "add_box", options: { profile: "bramble-32", port: "b" })
    expect(ask("/api/desk")["rig"]).to eq(["Port B: the plan has Bramble 32, the desk finds no box."])
    tell("/api/desk/stand-in")
    Tools.wait_until(60, "the other rig") { ask("/api/desk")["rig"] == [] }
  end

  it "says when the desk is not the planned one" do
    tell("/api/steps", kind: "desk", options: { desk: "rowan-16" })
    expect(ask("/api/state")["desk"]).to include("stranger" => "alder-40", "apart" => nil)
    expect(tell("/api/desk/send")["problems"]).to eq(["The desk is the Alder 40, and the plan is for the Rowan 16; nothing was sent."])
    tell("/api/desk/stand-in")
    Tools.wait_until(60, "the other desk") { ask("/api/state")["desk"]["stranger"].nil? }
  end
end
