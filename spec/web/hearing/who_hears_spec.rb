# frozen_string_literal: true

# Who hears what by the API, with a stand-in desk's control behind a real socket.
RSpec.describe Loomshuttle::Web::WhoHears, :folder do
  include_context "with the API"

  let(:desk) { SocketDesk.new({ "desk" => "alder-40" }) }
  let(:desk_port) { desk.port }
  let(:first_show) { HearingHelp.show(HearingHelp.wish("least", "channel/2", 3, -6)) }

  before do
    desk.stand_as(first_show)
    { "strip/1/fader" => -4.0, "strip/1/bus/1" => -9.0, "strip/2/bus/2" => -7.0 }.each { |address, value| desk.settings.set(address, value) }
    control
    Tools.wait_until(60, "the desk") { control.desk.mirror.values_at("strip/1/fader", "strip/1/bus/1", "strip/2/bus/2") == [-4.0, -9.0, -7.0] }
  end

  after { desk.close }

  def hearing(sheet = nil) = ask("/api/hearing#{"?sheet=#{sheet}" if sheet}")
  def level(source, listener, table = hearing) = table["db"][table["sources"].index { |one| one["title"] == source }][table["listeners"].index { |one| one["title"] == listener }]

  # Waits for two whole looks of the thread that tells viewers, so that it knows of everything by then.
  def looked(looks)
    looks.clear
    3.times { Tools.wait_until(60, "a look") { control.who_hears.touch && !looks.empty? && looks.pop } }
  end

  def findings = ask("/api/findings").select { |one| one["check"] == "broken-wish" }

  it "tells it current desk levels, within a moment of a hand at a fader, and counts broken wishes in the band" do
    expect(hearing["levels"]["from"]).to eq("desk")
    expect([level("Fiddle", "PA"), level("Fiddle", "Ada"), level("Click", "PA"), level("Click", "Drummer")]).to eq([-4.0, -9.0, nil, -7.0])
    Tools.wait_until(60, "the band") { ask("/api/state")["findings"]["blocks"] == 1 }
    desk.turn("strip/2/bus/2", -3.0)
    Tools.wait_until(60, "the fader") { level("Click", "Drummer").to_i == -3 }
    expect(findings).to eq([])
    Tools.wait_until(60, "the band") { ask("/api/state")["findings"]["blocks"].zero? }
  end

  it "tells viewers when somebody hears something else, and not otherwise" do
    told, looks = Queue.new, Queue.new
    allow(control.hub).to receive(:tell) { |kind, *| told << kind if kind == "heard" }
    allow(control.who_hears).to(receive(:look).and_wrap_original { |look| look.call.tap { looks << true } })
    desk.turn("strip/1/fader", -20.0)
    Tools.wait_until(60, "the fader") { level("Fiddle", "PA").to_i == -20 }
    looked(looks)
    expect(told).not_to be_empty
    told.clear
    desk.turn("strip/1/gain", 12.0) # in front of where sources count
    Tools.wait_until(60, "the gain") { control.desk.mirror["strip/1/gain"].to_i == 12 }
    looked(looks)
    expect(told).to be_empty
  end

  it "offers what would mend a broken wish, shows what that does, and sets exactly that" do
    press = findings.first["press"]
    expect(press).to eq("label" => "Raise it by 1 dB at the desk", "values" => { "channel/2/send/2" => -6.0 })
    shown = tell("/api/levels/preview", values: press["values"])
    expect(shown["values"]).to eq([{ "name" => "channel/2/send/2", "words" => "Click, send to Bus 2 Wedge drums", "from" => "−7 dB", "to" => "−6 dB" }])
    expect(shown["heard"]).to eq([{ "source" => "Click", "listener" => "Drummer", "from" => -7.0, "to" => -6.0 }])
    expect(shown["findings_gone"]).to match([/Drummer hears Click at −7 dB/])
    expect(desk.settings.get("strip/2/bus/2")).to eq(-7.0)
    expect(tell("/api/levels", values: press["values"])).to eq("problems" => [])
    expect(desk.settings.get("strip/2/bus/2")).to eq(-6.0)
    expect(findings).to eq([])
  end

  it "does not say of an edit that it would mend what only a measurement can take back" do
    measured = Loomshuttle::Checks::CardPace.found(first_show, 47_000.0)
    allow(control.who_hears).to(receive(:findings).and_wrap_original { |all| all.call + measured })
    expect(ask("/api/findings").map { |one| one["id"] }).to include("card-pace")
    shown = tell("/api/steps/preview", kind: "settings", options: { settings: { "wish/1/db" => -8 } })
    expect(shown["findings_gone"]).to match([/Drummer hears Click at −7 dB/])
  end

  it "lets a broken wish stay, for a reason, and counts it so" do
    id = findings.first["id"]
    tell("/api/steps", kind: "accept", options: { finding: id, reason: "She likes it soft" })
    expect(findings.map { |one| one["accepted"] }).to eq(["She likes it soft"])
    Tools.wait_until(60, "the band") { ask("/api/state")["findings"].values_at("blocks", "accepted") == [0, 1] }
    tell("/api/steps", kind: "reopen", options: { finding: id })
    expect(findings.map { |one| one["accepted"] }).to eq([nil])
  end

  it "refuses levels that the desk does not have, and while it is away" do
    expect(tell("/api/levels", { values: { "channel/99/fader" => 0 } }, 422)["error"]["message"]).to include("no level")
    expect(tell("/api/levels/preview", { values: { "channel/1/fader" => 99 } }, 422)["error"]["message"]).to include("cannot be 99")
    desk.lose_requests = 10_000
    Tools.wait_until(60, "the desk to be away") { !control.desk.up? }
    expect(tell("/api/levels", { values: { "channel/1/fader" => 0 } }, 422)["error"]["message"]).to include("does not answer")
  end

  it "keeps levels by name, and tells by them with no desk at hand" do
    id = tell("/api/level-sheets", name: "Soundcheck")["id"]
    desk.turn("strip/1/fader", -30.0)
    Tools.wait_until(60, "the fader") { level("Fiddle", "PA").to_i == -30 }
    expect(level("Fiddle", "PA", hearing(id))).to eq(-4.0)
    expect(ask("/api/level-sheets").map { |one| one["name"] }).to eq(["Soundcheck"])
    desk.lose_requests = 10_000
    Tools.wait_until(60, "the desk to be away") { !control.desk.up? }
    expect(hearing["levels"]).to include("from" => "sheet", "name" => "Soundcheck")
    expect(level("Fiddle", "PA")).to eq(-4.0)
    expect(tell("/api/level-sheets", { name: "Again" }, 422)["error"]["message"]).to include("does not answer")
    delete("/api/level-sheets/#{id}", {}, "CONTENT_TYPE" => "application/json")
    answer
    expect(hearing["levels"]["from"]).to be_nil
    expect(level("Fiddle", "PA")).to be_nil
    get("/api/hearing?sheet=#{id}")
    expect(answer(422)["error"]["message"]).to include("no level sheet")
  end

  it "follows one way hop by hop, and says when there is none to follow" do
    way = ask("/api/hearing/way?source=channel%2F1&listener=2")
    expect(way).to include("db" => -9.0, "ways" => 1, "notches" => [])
    expect(way["hops"].map { |hop| hop["label"] }).to include("In 1", "Bus 1 at pre-EQ", "Output 1", "Out 1")
    expect(ask("/api/hearing/way?source=channel%2F2&listener=1")).to include("db" => nil, "hops" => [])
    get("/api/hearing/way?source=channel%2F9&listener=2")
    expect(answer(422)["error"]["message"]).to include("no source channel/9")
  end

  it "reads the sends of a mix from the desk, and what is set there is there" do
    page = ask("/api/levels/sends?bus=1")
    expect(page).to include("bus" => 1, "levels" => include("from" => "desk"))
    fiddle = page["sends"].find { |row| row["title"] == "Fiddle" }
    expect(fiddle).to include("name" => "channel/1/send/1", "db" => -9.0, "off" => false, "tap_label" => "pre-fader")
    tell("/api/levels", values: { fiddle["name"] => -12.5 })
    Tools.wait_until(60, "the level") { ask("/api/levels/sends?bus=1")["sends"].first["db"] < -12 }
    get("/api/levels/sends?bus=99")
    expect(answer(422)["error"]["message"]).to include("no bus 99")
  end

  it "shows before an edit what it would silence for whom" do
    shown = tell("/api/steps/preview", kind: "settings", options: { settings: { "output/1/source" => nil } })
    expect(shown["heard"]).to eq([{ "source" => "Fiddle", "listener" => "Ada", "from" => -9.0, "to" => nil }])
    expect(shown["findings_new"]).to include("Ada hears nothing: output 1 has no source.")
    louder = tell("/api/steps/preview", kind: "settings", options: { settings: { "channel/2/main" => true } })
    expect(louder["heard"]).to eq([{ "source" => "Click", "listener" => "PA", "from" => nil, "to" => -6.0 }])
    expect(louder["findings_new"]).to match([/Click can be heard by PA/])
  end

  it "prints it: rows, CSV and PDF" do
    expect(ask("/api/hearing/rows").find { |row| row["source"] == "Click" && row["listener"] == "Drummer" })
      .to eq("source" => "Click", "listener" => "Drummer", "db" => -7.0, "ms" => 0.0, "ways" => 1, "wish" => "broken")
    expect(ask("/api/outputs/rows").first).to eq("output" => 1, "source" => "Bus 1 Ear Ada", "tap" => "post-fader", "delay_ms" => 0.0, "polarity" => false,
                                                 "sockets" => ["Out 1", "Line out 1"])
    get("/api/papers/hears.csv")
    csv = CSV.parse(last_response.body, headers: true)
    expect(csv.find { |row| row["listener"] == "Ada" && row["source"] == "Fiddle" }.to_h)
      .to eq("source" => "Fiddle", "listener" => "Ada", "db" => "-9.0", "ms" => "0.0", "ways" => "1", "wish" => nil)
    get("/api/papers/hears.pdf")
    expect(last_response.status).to eq(200), last_response.body
    file = File.join(@folder, "hears.pdf").tap { |path| File.binwrite(path, last_response.body) }
    expect(Tools.run("pdftotext", "-layout", file, "-").lines.grep(/^ *Click/).first).to match(/silent +silent +✕ −7.0/)
  end

  it "says why nothing is heard while the recorder is away" do
    get("/api/hearing/now?listener=2")
    expect(answer(503)["error"]["message"]).to include("recorder")
    get("/api/hearing/now?listener=77")
    expect(answer(422)["error"]["message"]).to include("no listener 77")
  end

  it "tells what leaves the desk, and what can be chosen there" do
    outputs = ask("/api/outputs")
    expect(outputs["outputs"][0]).to include("label" => "Bus 1 Ear Ada", "taken" => "post-fader", "delay_ms" => 0.0,
                                             "sockets" => include({ "point" => "desk/out/1", "label" => "Out 1" }))
    expect(outputs["listeners"].map { |one| one["name"] }).to eq(%w[PA Ada Drummer])
    expect(outputs["can"]["sources"]).to include("point" => "card/return/1", "label" => "Card return 1")
  end
end
