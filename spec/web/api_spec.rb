# frozen_string_literal: true

require "hana"
require "json_schemer"

RSpec.describe Loomshuttle::Web::App, :folder do
  include_context "with the API"

  it "has a contract that is a valid OpenAPI 3.1 document" do
    document = JSON.parse(File.read(Loomshuttle::Web::Contract::PATH))
    expect(document["openapi"]).to eq("3.1.0")
    expect(JSONSchemer.openapi(document).validate.to_a).to eq([])
    get("/api/openapi.json")
    expect(JSON.parse(last_response.body)).to eq(document)
  end

  it "has a route for every operation of the contract, and none beside" do
    documented = JSON.parse(File.read(Loomshuttle::Web::Contract::PATH))["paths"].flat_map { |path, operations| operations.keys.map { |verb| [verb.upcase, path] } }
    routes = described_class.routes.except("HEAD").flat_map { |verb, list| list.map { |pattern, *| [verb, pattern.to_s.gsub(/:(\w+)/, '{\1}')] } }
    expect(routes.select { |_, path| path.start_with?("/api/") }).to match_array(documented)
  end

  it "shows the whole show, and all that is derived from it" do
    expect(show).to include("version" => 1, "strands" => have_attributes(size: 16), "findings" => [], "latency" => { "in_ms" => 21.3, "out_ms" => 21.3, "total_ms" => 42.7 })
  end

  %w[/api/strands /api/findings /api/journal /api/health /api/state /api/desk /api/takes /api/rig /api/shows /api/profiles /api/presets
     /api/choices?column=send&number=3 /api/compare?one=now&other=version/1].each do |path|
    it("answers #{path} as the contract says") { ask(path) }
  end

  it "shows the plan and the running order as they were seen last while the database is away, and refuses edits" do
    ask("/api/player")
    allow(shows).to receive_messages(load: nil, undoable: nil)
    allow(shows).to receive(:load).and_raise(Sequel::DatabaseDisconnectError)
    allow(shows).to receive(:undoable).and_raise(Sequel::DatabaseDisconnectError)
    allow(shows).to receive(:apply).and_raise(Sequel::PoolTimeout)
    expect(ask("/api/player")).to include("version" => 1)
    expect(show).to include("version" => 1, "undo" => nil)
    get("/api/papers/order.pdf")
    expect(last_response.status).to eq(200)
    expect(tell("/api/edits", { settings: { "channel/1/name" => "Tuba" } }, 503)["error"]["where"]).to eq("database")
  end

  # Twelve of them once held up the application for minutes.
  it "holds HEAD against the contract as it does GET" do
    { "/api/click?bpm=20&meter=4/4&bars=999999999&form=mid" => 400, "/api/trace?point=nonsense%00" => 400, "/api/journal/99999999999999999999" => 400, "/api/state" => 200,
      "/api/papers/sheet.pdf" => 200 }.each do |path, status|
      head(path)
      expect([path, last_response.status, last_response.body]).to eq([path, status, ""])
    end
  end

  it "says what the database could not save, and why" do
    control
    { PG::DiskFull => [507, "disk"], PG::NumericValueOutOfRange => [400, "request"], PG::UndefinedTable => [500, "request"] }.each do |kind, (status, where)|
      allow(shows).to receive(:apply).and_raise(Sequel::DatabaseError.new("no").tap { |error| error.wrapped_exception = kind.new("no") })
      expect { post_json("/api/edits", settings: { "channel/1/name" => "Tuba" }) }.to output(status == 500 ? /no/ : "").to_stderr
      expect([last_response.status, JSON.parse(last_response.body)["error"]["where"]]).to eq([status, where])
    end
    allow(shows).to receive(:apply).and_raise(Errno::ENOSPC)
    expect(tell("/api/edits", { settings: { "channel/1/name" => "Tuba" } }, 507)["error"]["message"]).to include("disk is full; nothing was saved")
  end

  # The end of the transaction was kept, but nobody said so in time.
  it "says that it is not known whether a change was saved, and reads the show again" do
    show
    apply = shows.method(:apply)
    allow(shows).to receive(:apply) do |*arguments, **options, &block|
      apply.call(*arguments, **options, &block)
      raise Loomshuttle::Store::Database::Unknown, "late"
    end
    expect(tell("/api/edits", { settings: { "channel/1/name" => "Tuba" } }, 503)["error"]).to include("where" => "unknown", "message" => /may be saved or not/)
    Tools.wait_until(20, "the newest version") { control.seen.version == 2 }
    expect(control.seen.show.channels[1].name).to eq("Tuba")
  end

  it "refuses what is not UTF-8 anywhere in an address" do
    ["/%ff", "/api/takes/%ff", "/api/state?%ff=1", "/api/trace?point=%ff", "/api/state?a=%00"].each do |path|
      get(path)
      expect([path, last_response.status, JSON.parse(last_response.body)["error"]["message"]]).to match([path, 400, /UTF-8|cannot be shown/])
    end
  end

  it "says which part is away" do
    expect(tell("/api/player", { command: "stop" }, 503)["error"]).to include("where" => "player", "message" => /The player does not answer/)
    expect(tell("/api/take-playback/stop", {}, 503)["error"]).to include("where" => "recorder")
  end

  it "traces a strand, and every way through a point" do
    expect(ask("/api/strands/#{show['strands'][3]['id']}/trace")).to include("comes_home" => true, "hops" => have_attributes(size: 7))
    trace = ask("/api/trace?point=card/send/4")
    expect(trace["ways"].first.map { |hop| hop["point"] }.first(3)).to eq(%w[desk/in/4 desk/ch/4@preamp card/send/4])
    expect(ask("/api/trace?point=desk/line/2")["ways"]).to eq([])
  end

  it "edits, undoes and redoes, and says who" do
    header("X-Loomshuttle-Who", "Ad%C3%A4")
    expect(tell("/api/edits", version: 1, label: "Name", settings: { "channel/1/name" => "Tuba" }))
      .to include("version" => 2, "changes" => [{ "path" => "channel/1/name", "from" => "Source 1", "to" => "Tuba" }])
    tell("/api/undo", version: 2)
    expect(show).to include("version" => 3, "undo" => nil, "redo" => "Name")
    tell("/api/redo", {})
    expect(ask("/api/journal").map { |entry| entry.values_at("kind", "label", "who") }).to eq([["redo", "Redo: Name", "Adä"], ["undo", "Undo: Name", "Adä"], %w[edit Name Adä]])
    expect(ask("/api/journal/2")["changes"]).to eq([{ "path" => "channel/1/name", "what" => "Channel 1 Tuba", "field" => "name", "from" => "Source 1", "to" => "Tuba" }])
    expect(ask("/api/journal?before=3").map { |entry| entry["version"] }).to eq([2])
  end

  it "answers an edit with the show that it made, where the request prefers that (RFC 7240, 4.2)" do
    header("Prefer", "respond-async, return=representation")
    edited = tell("/api/edits", version: 1, settings: { "channel/1/name" => "Tuba" })
    expect(last_response["Preference-Applied"]).to eq("return=representation")
    expect(edited["show"]).to eq(show).and include("version" => 2, "undo" => "Channel 1 Source 1, name")
    expect(tell("/api/undo", {})["show"]).to include("version" => 3, "redo" => "Channel 1 Source 1, name")
    header("Prefer", "return=minimal")
    expect(tell("/api/redo", {})).not_to have_key("show")
  end

  it "tells a screen that says which edition it has only what has changed since" do
    before = show
    tell("/api/edits", version: 1, settings: { "channel/1/name" => "Tuba" })
    news = ask("/api/show?since=#{before['edition']}")
    now = show
    expect(news).to include(**now.slice("id", "version", "edition", "undo", "redo"), "since" => before["edition"])
    patched = Hana::Patch.new(news["changes"]).apply(before)
    expect({ **patched, **news.except("since", "changes") }).to eq(now)
    expect(ask("/api/show?since=#{now['edition']}")["changes"]).to eq([])
  end

  it "tells the whole show to a screen whose edition it does not know" do
    expect(ask("/api/show?since=#{'x' * 12}")).to eq(show)
  end

  it "gives a version another edition after a profile has changed" do
    old = show
    control.forget
    expect(show).to include("version" => old["version"], "edition" => a_string_matching(/\A\w+\z/).and(satisfy { |edition| edition != old["edition"] }))
  end

  it "answers an edit with what has changed since the edition that it names" do
    before = show
    header("Prefer", "return=representation")
    news = tell("/api/edits?since=#{before['edition']}", version: 1, settings: { "send/2/source" => nil })["show"]
    expect(Hana::Patch.new(news["changes"]).apply(before)).to include(show.slice("sends", "strands", "sheet", "uncaptured"))
  end

  it "says that an edit is made, also where the show cannot be told after it" do
    allow(Loomshuttle::Web::Present).to receive(:new).and_raise(Sequel::DatabaseDisconnectError)
    allow(Loomshuttle::Runtime::Log).to receive(:surprise)
    header("Prefer", "return=representation")
    expect(tell("/api/edits", version: 1, settings: { "channel/1/name" => "Tuba" })).to include("version" => 2).and(satisfy { |edited| !edited.key?("show") })
  end

  it "flips" do
    expect(tell("/api/flip", to: "take", channels: [1, 2])["changes"].size).to eq(2)
    expect(show["channels"].first(3).map { |channel| channel["position"] }).to eq(%w[take take stage])
  end

  it "flips the channels of a take alone" do
    allow(control.shelf).to receive(:find).with("seven").and_return("tracks" => [{ "number" => 2 }])
    tell("/api/flip", to: "take", take: "seven")
    expect(show["channels"].first(3).map { |channel| channel["position"] }).to eq(%w[stage take stage])
  end

  it "refuses a stale edit with what changed since, and takes it again" do
    tell("/api/edits", version: 1, settings: { "channel/1/name" => "A" })
    refusal = tell("/api/edits", { version: 1, settings: { "channel/1/name" => "C", "channel/2/name" => "B" } }, 409)["error"]
    expect(refusal).to include("version" => 2, "entries" => [include("label" => "Channel 1 Source 1, name", "changes" => [include("from" => "Source 1", "to" => "A")])])
    tell("/api/edits", version: refusal["version"], settings: { "channel/2/name" => "B" })
    expect(show["channels"].first(2).map { |channel| channel["name"] }).to eq(%w[A B])
  end

  it "refuses an edit that was meant for another show" do
    tell("/api/shows", about: { name: "Next" }, desk: "rowan-10", open: true)
    expect(tell("/api/edits", { version: 1, show: 1, settings: { "channel/1/name" => "A" } }, 422)["error"]["message"]).to include("Another show has been opened")
  end

  {
    ["/api/edits", { settings: { "channel/1/gain" => 99 } }] => [422, /0 to 60 dB/], ["/api/edits", { settings: {} }] => [400, /minProperties|settings/],
    ["/api/edits", { nonsense: 1, settings: { "channel/1/name" => "x" } }] => [400, /nonsense/], ["/api/edits", "{"] => [400, /JSON|not/i], ["/api/edits", "[]"] => [400, /./],
    ["/api/flip", { to: "moon" }] => [400, /moon/], ["/api/flip", { to: "take", channels: [99] }] => [422, /no channel 99/], ["/api/undo", {}] => [422, /nothing to undo/],
    ["/api/steps", { kind: "run_straight", options: { column: "socket", first: 1, count: 99, start: 1 } }] => [422, /leaves the desk/],
    ["/api/steps", { kind: "magic" }] => [400, /magic/], ["/api/steps", { kind: "preset" }] => [422, /needs preset/],
    ["/api/steps", { kind: "remove_box", options: { box: "a" } }] => [422, /no box A/],
    ["/api/capture", { frames: 0 }] => [400, /frames/], ["/api/capture", { name: "x" }] => [503, /recorder does not answer/],
    ["/api/take-playback", { take: 1 }] => [503, /recorder/], ["/api/take-playback", {}] => [400, /take/],
    ["/api/presets", { name: " ", parts: ["names"] }] => [422, /needs a name/],
    ["/api/presets", { name: "x", parts: ["soup"] }] => [400, /soup/], ["/api/shows", { desk: "rowan-10" }] => [422, /needs a name/],
    ["/api/shows", { about: { name: "x" }, desk: "oak" }] => [422, /no desk profile "oak"/], ["/api/shows/7/open", {}] => [422, /no show 7/],
    ["/api/desk/copies/3/restore", {}] => [422, /no copy 3/], ["/api/desk/read", {}] => [422, /does not answer/], ["/api/desk/stand-in", {}] => [422, /Only a simulated/]
  }.each do |(path, data), (status, message)|
    it "refuses #{path} #{data} with a reason, and changes nothing" do
      expect(tell(path, data, status)["error"]["message"]).to match(message)
      expect(show["version"]).to eq(1)
    end
  end

  it "says what is not there" do
    get("/api/nothing")
    expect([last_response.status, JSON.parse(last_response.body).dig("error", "message")]).to eq([404, "There is nothing at /api/nothing."])
    get("/api/takes/7")
    expect(answer(404)["error"]["message"]).to eq("There is no take 7.")
    get("/api/compare?one=now&other=soup")
    expect(answer(422)["error"]["message"]).to include("nothing called \"soup\"")
    get("/assets/../../Gemfile")
    expect(last_response.status).to eq(404)
  end

  it "says so when the database is away" do
    control
    allow(shows).to receive(:load).and_raise(Sequel::DatabaseConnectionError)
    get("/api/rig")
    expect(answer(503)["error"]).to include("where" => "database")
  end

  describe "strangers" do
    it "refuses another host's name" do
      header("Host", "evil.example")
      get("/api/show")
      expect(last_response.status).to eq(403)
    end

    it "refuses another page's requests" do
      header("Origin", "http://evil.example")
      post_json("/api/undo")
      expect(last_response.status).to eq(403)
      header("Origin", "http://127.0.0.1")
      post_json("/api/edits", settings: { "channel/1/name" => "x" })
      expect(last_response.status).to eq(200)
    end

    it "refuses changes that a form could send" do
      post("/api/undo", "version=1")
      expect(last_response.status).to eq(415)
      post("/api/undo", "{}", "CONTENT_TYPE" => "text/plain")
      expect(last_response.status).to eq(415)
    end

    it "allows no inline script, and styles only by a nonce that is new each time" do
      policies = Array.new(2) { get("/api/health") && last_response.headers["content-security-policy"] }
      expect(policies.first).to include("script-src 'self';").and include("default-src 'none'")
      expect(policies.join).not_to include("unsafe")
      expect(policies.uniq.size).to eq(2)
    end
  end
end
