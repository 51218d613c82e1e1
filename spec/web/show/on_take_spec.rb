# frozen_string_literal: true

# What the desk hears, told by the desk: whichever show is open, and before anything is done that would leave it on take without a word.
RSpec.describe "Channels on take", :folder do
  include_context "with the API"

  let(:desk) { SocketDesk.new({ "desk" => "alder-40", "boxes" => [{ "profile" => "bramble-16", "port" => "a" }] }) }
  let(:first_show) { set(straight(16, from: chained), "box/b/profile" => nil, "box/b/port" => nil) }
  let(:desk_port) { desk.port }

  before do
    desk.stand_as(first_show)
    control
    Tools.wait_until(60, "the desk") { control.desk.up? }
  end

  after { desk.close }

  def on_take = ask("/api/state")["positions"]["channels"]
  def at_desk = (1..5).map { |block| desk.settings.get("block/#{block}/hears") }

  def flipped
    tell("/api/flip", to: "take")
    Tools.wait_until(60, "the flip") { on_take.size == 16 }
  end

  it "are reported whichever show is open, and opening one asks first" do
    flipped
    other = tell("/api/shows", about: { name: "Other" }, desk: "rowan-16")["id"]
    refused = tell("/api/shows/#{other}/open", {}, 409)["error"]
    expect(refused).to include("where" => "on_take",
                               "message" => "16 channels are on take: no stage input there. Return to stage first, or leave them on take, to open another show.")
    expect(show["about"]["name"]).to eq("Test")
    expect(tell("/api/shows", { about: { name: "More" }, desk: "rowan-16", open: true }, 409)["error"]["where"]).to eq("on_take")
    expect(ask("/api/shows").size).to eq(2) # nothing was made
    tell("/api/shows/#{other}/open", on_take: "keep")
    expect([show["about"]["name"], on_take]).to eq(["Other", (1..16).to_a])
    tell("/api/flip", to: "stage")
    expect([on_take, at_desk.uniq]).to eq([[], ["stage"]])
  end

  it "return to the stage before a show is opened, where somebody wants that" do
    flipped
    other = tell("/api/shows", about: { name: "Other" }, desk: "alder-40")["id"]
    tell("/api/shows/#{other}/open", on_take: "stage")
    expect([show["about"]["name"], on_take, at_desk.uniq]).to eq(["Other", [], ["stage"]])
  end

  it "are reported even if the plan has them on stage: the desk was away when they should return" do
    flipped
    desk.lose_requests = 1_000_000
    Tools.wait_until(60, "it to be missed") { !ask("/api/state")["desk"]["up"] }
    expect(tell("/api/flip", to: "stage")["desk_problems"]).not_to be_empty
    expect(show["channels"][0]["position"]).to eq("stage")
    expect(on_take.size).to eq(16)
    desk.lose_requests = 0
    Tools.wait_until(60, "the desk") { ask("/api/state")["desk"]["up"] }
    expect(on_take.size).to eq(16)
    expect(tell("/api/desk/send", {}, 409)["error"]["where"]).to eq("on_take")
    tell("/api/desk/send", on_take: "stage")
    expect([on_take, at_desk.uniq]).to eq([[], ["stage"]])
  end

  it "never come from a plan that is sent, unless somebody says so" do
    tell("/api/edits", settings: { "setup/desk_follows" => "when sent" })
    tell("/api/flip", to: "take")
    Tools.wait_until(60, "the flip") { on_take.size == 16 }
    desk.turn("block/1/hears", "stage")
    desk.turn("block/2/hears", "stage")
    Tools.wait_until(60, "a hand at the desk") { on_take.empty? }
    tell("/api/edits", settings: { "channel/1/gain" => 17 })
    expect(tell("/api/desk/send", {}, 409)["error"]["message"]).to match(/16 channels are on take.* to send the plan, which has them on take/)
    expect(tell("/api/desk/send", on_take: "keep")["problems"]).to eq([])
    expect([desk.settings.get("strip/1/gain"), on_take]).to eq([17.0, []])
  end

  it "are none of what undo turns round" do
    tell("/api/edits", settings: { "channel/1/name" => "Tuba" })
    flipped
    tell("/api/flip", to: "stage")
    Tools.wait_until(60, "the flip") { on_take.empty? }
    tell("/api/undo")
    expect([show["channels"][0]["name"], on_take, at_desk.uniq]).to eq(["Source 1", [], ["stage"]])
    expect(tell("/api/undo", {}, 422)["error"]["message"]).to eq("You have nothing to undo.")
  end

  it "belong to undo of each browser without a name, too" do
    header("X-Loomshuttle-Browser", "0011223344556677")
    tell("/api/edits", settings: { "channel/1/name" => "Tuba" })
    header("X-Loomshuttle-Browser", "8899aabbccddeeff")
    expect(show["undo"]).to be_nil
    expect(tell("/api/undo", {}, 422)["error"]["where"]).to eq("undo")
    header("X-Loomshuttle-Browser", "0011223344556677")
    expect(show["undo"]).to eq("Channel 1 Source 1, name")
    tell("/api/undo")
  end
end
