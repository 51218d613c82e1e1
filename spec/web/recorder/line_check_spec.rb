# frozen_string_literal: true

RSpec.describe Loomshuttle::Web::Routes::LineCheckRoutes, :folder do
  include_context "with the API"

  let(:first_show) { set(straight(20, from: chained), "channel/3/phantom" => true, "channel/3/mic" => "condenser", "box/b/spot" => "right") }
  let(:lanes) { control.seen.show.profile.all_channel_points.size }

  # As the desk tells its meters: peaks by channel number, RMS 10 dB below.
  def play(levels, frames: 30)
    control.listener.follow(control.seen.show, [])
    peaks = Array.new(lanes) { |at| levels.fetch(at + 1, -90.0) }
    frames.times { control.listener.meters("desk", peaks, peaks.map { |peak| peak - 10 }) }
  end

  def roll = ask("/api/line-check")
  def line(channel) = roll["lines"].find { |one| one["channel"] == channel }

  it "calls the roll by need, with what to set" do
    play({ 1 => -8.0, 2 => -30.0, 5 => 0.0 })
    seen = roll
    expect(seen).to include("alignment" => -18, "levels" => [{ "level" => -18, "standard" => "EBU R 68" }, { "level" => -20, "standard" => "SMPTE RP 155" }])
    expect(seen["lines"].map { |one| one["channel"] }.values_at(0, 1, -1)).to eq([5, 2, 1])
    expect(line(2)).to include("verdict" => "low", "advice" => "Raise the preamp by 22 dB", "settings" => { "channel/2/gain" => 22 }, "socket" => "A 2", "place" => 1,
                               "loud" => -40.0)
  end

  it "takes the other alignment level when the show says so" do
    tell("/api/edits", settings: { "setup/alignment" => -20 })
    play({ 1 => -8.0 })
    expect(roll).to include("alignment" => -20)
    tell("/api/edits", { settings: { "setup/alignment" => -9 } }, 422)
  end

  it "applies all advice as one edit that can be looked at first and undone" do
    play({ 1 => -30.0, 2 => -30.0 })
    settings = roll["lines"].map { |one| one["settings"] }.reduce(:merge)
    seen = tell("/api/steps/preview", kind: "settings", options: { settings: settings })
    expect(seen["changes"].map { |one| [one["what"], one["to"]] }).to eq([["Channel 1 Source 1", "22 dB"], ["Channel 2 Source 2", "22 dB"]])
    tell("/api/edits", version: seen["version"], settings: seen["settings"])
    expect(show["channels"].first(3).map { |one| one["gain"] }).to eq([22, 22, 0])
    tell("/api/undo")
    expect(show["channels"].first["gain"]).to eq(0)
  end

  it "keeps ticks with who and when, and takes them away" do
    header("X-Loomshuttle-Who", "Ada")
    tell("/api/ticks", kind: "heard", subject: "4", on: true)
    expect(line(4)["heard"]).to include("who" => "Ada", "at" => match(/\A\d{4}-/))
    tell("/api/ticks", kind: "heard", subject: "4", on: false)
    expect(line(4)["heard"]).to be_nil
    tell("/api/ticks", kind: "heard", subject: "5", on: true)
    tell("/api/ticks/clear", kind: "heard")
    expect(line(5)["heard"]).to be_nil
    play({ 1 => -30.0 })
    tell("/api/ticks", kind: "heard", subject: "1", on: true)
    control.listener.forget(1)
    expect(line(1)).to include("was" => "low", "verdict" => "not heard yet", "place" => 0)
    expect(roll["lines"].first["channel"]).to eq(1)
    tell("/api/ticks/clear", kind: "heard")
    expect(line(1)["was"]).to be_nil
    tell("/api/ticks", { kind: "eaten", subject: "4", on: true }, 400)
  end

  it "lists outputs box by box, with what plugs in there" do
    tell("/api/edits", settings: { "output/15/source" => "desk/main/l", "listener/order" => [1], "listener/1/name" => "PA left", "listener/1/hears" => ["desk/output/15"] })
    expect(ask("/api/stage")["outputs"].find { |place| place["label"] == "Box B, Bramble 16" }["sockets"]).to eq(
      [{ "socket" => "box-b/out/7", "label" => "B out 7", "output" => 15, "carries" => "Main L", "plugs" => ["PA left"] }]
    )
  end

  it "lists sockets box by box for a hand on stage" do
    tell("/api/ticks", kind: "plugged", subject: "box-a/in/3", on: true)
    boxes = ask("/api/stage")["boxes"]
    expect(boxes.map { |box| [box["label"], box["sockets"].size] }).to eq([["Box A, Bramble 16", 16], ["Box B, Bramble 16, stage right", 4]])
    expect(boxes[0]["sockets"][2]).to include("label" => "A 3", "name" => "Source 3", "phantom" => true, "mic" => "condenser", "plugged" => include("who" => "somebody"))
  end

  it "forgets what was heard" do
    play({ 1 => -8.0, 2 => -8.0 })
    tell("/api/line-check/forget", channel: 1)
    expect([line(1), line(2)].map { |one| one["verdict"] }).to eq(["not heard yet", "good"])
    tell("/api/line-check/forget")
    expect(line(2)["verdict"]).to eq("not heard yet")
  end

  it "says who makes a noise, once, and when it is over" do
    told = []
    allow(control.hub).to receive(:tell).and_call_original
    allow(control.hub).to receive(:tell).with("noise", anything) { |_, data| told << data[:channel] }
    play({})
    play({ 7 => -20.0 }, frames: 100)
    expect(told).to eq([7, nil])
  end
end
