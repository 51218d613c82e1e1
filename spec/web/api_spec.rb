# frozen_string_literal: true

require "json_schemer"
require "rack/test"

# The API against its contract: every answer is checked by Committee against the OpenAPI file.
RSpec.describe Loomshuttle::Web::App, :folder do
  include Rack::Test::Methods
  include Committee::Test::Methods

  let(:shows) { Loomshuttle::Store::Shows.new(TestDatabase.empty, "rowan-16" => CoreHelp::PROFILE) }
  let(:control) do
    shows.create("rowan-16", { name: "Test" }, straight.settings)
    Loomshuttle::Web::Control.new(shows: shows, takes: Loomshuttle::Store::Takes.new(TestDatabase.instance_variable_get(:@connection)), home: @folder, desk_port: 9)
  end
  let(:app) { described_class.guarded(control, hosts: ["127.0.0.1"]) }
  let(:committee_options) { Loomshuttle::Web::Contract.options }

  def request_object = last_request
  def response_data = [last_response.status, last_response.headers, last_response.body]

  before { header("Host", "127.0.0.1") }

  def post_json(path, data = {}) = post(path, data.is_a?(String) ? data : JSON.generate(data), "CONTENT_TYPE" => "application/json")

  def answer(status = 200)
    expect(last_response.status).to eq(status), last_response.body
    assert_response_schema_confirm(status)
    JSON.parse(last_response.body)
  end

  def show = get("/api/show") && answer

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

  %w[/api/strands /api/findings /api/journal /api/health /api/state /api/desk/differences /api/takes /api/choices?column=send&number=3].each do |path|
    it "answers #{path} as the contract says" do
      get(path)
      answer
    end
  end

  it "traces a strand" do
    get("/api/strands/#{show['strands'][3]['id']}/trace")
    expect(answer).to include("comes_home" => true, "hops" => have_attributes(size: 7))
  end

  it "edits, undoes and redoes, and says who" do
    header("X-Loomshuttle-Who", "Ad%C3%A4")
    post_json("/api/edits", version: 1, label: "Name", settings: { "channel/1/name" => "Tuba" })
    expect(answer).to include("version" => 2, "changes" => [{ "path" => "channel/1/name", "from" => "Source 1", "to" => "Tuba" }])
    post_json("/api/undo", version: 2)
    answer
    expect(show).to include("version" => 3, "undo" => nil, "redo" => "Name")
    post_json("/api/redo", {})
    answer
    get("/api/journal")
    expect(answer.map { |entry| entry.values_at("kind", "label", "who") }).to eq([%w[edit Name Adä], ["undo", "Undo: Name", "Adä"], ["redo", "Redo: Name", "Adä"]])
  end

  it "runs straight and flips" do
    post_json("/api/run-straight", version: 1, column: "socket", first: 1, count: 2, start: 5)
    answer
    post_json("/api/flip", to: "take", channels: [1, 2])
    expect(answer["changes"].size).to eq(2)
    expect(show["channels"].first(3).map { |channel| channel.values_at("stage", "position") }).to eq([%w[desk/in/5 take], %w[desk/in/6 take], %w[desk/in/3 stage]])
  end

  it "refuses a stale edit with what changed meanwhile" do
    post_json("/api/edits", version: 1, settings: { "channel/1/name" => "A" })
    post_json("/api/edits", version: 1, settings: { "channel/1/name" => "B" })
    expect(answer(409)["error"]).to include("version" => 2, "entries" => [include("label" => "Set channel/1/name")])
    expect(show["channels"][0]["name"]).to eq("A")
  end

  {
    ["/api/edits", { settings: { "channel/1/gain" => 99 } }] => [422, /0 to 60 dB/], ["/api/edits", { settings: {} }] => [400, /minProperties|settings/],
    ["/api/edits", { nonsense: 1, settings: { "channel/1/name" => "x" } }] => [400, /nonsense/], ["/api/edits", "{"] => [400, /JSON|not/i], ["/api/edits", "[]"] => [400, /./],
    ["/api/flip", { to: "moon" }] => [400, /moon/], ["/api/flip", { to: "take", channels: [99] }] => [422, /no channel 99/], ["/api/undo", {}] => [422, /nothing to undo/],
    ["/api/run-straight", { column: "socket", first: 1, count: 99, start: 1 }] => [422, /leaves the desk/], ["/api/capture", { frames: 0 }] => [400, /frames/],
    ["/api/capture", { name: "x" }] => [503, /recorder does not answer/], ["/api/playback", { take: 1 }] => [503, /recorder/], ["/api/playback", {}] => [400, /take/]
  }.each do |(path, data), (status, message)|
    it "refuses #{path} #{data} with a reason, and changes nothing" do
      post_json(path, data)
      expect(answer(status)["error"]["message"]).to match(message)
      expect(show["version"]).to eq(1)
    end
  end

  it "says what is not there" do
    get("/api/nothing")
    expect([last_response.status, JSON.parse(last_response.body).dig("error", "message")]).to eq([404, "There is nothing at /api/nothing."])
    get("/api/takes/7")
    expect(answer(422)["error"]["message"]).to eq("There is no take 7.")
    get("/assets/../../Gemfile")
    expect(last_response.status).to eq(404)
  end

  it "says so when the database is away" do
    control
    allow(shows).to receive(:load).and_raise(Sequel::DatabaseConnectionError)
    get("/api/show")
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

RSpec.describe Loomshuttle::Web::Desk::Words do
  it "says every setting of the plan in words that a desk takes, and understands them back" do
    show = set(straight, "channel/17/stage" => "desk/line/1", "send/17/source" => "desk/main/l", "send/17/tap" => "post-fader")
    desk = Loomshuttle::StandIns::Desk::Settings.new(Loomshuttle::StandIns::Desk::Model.new(VirtualRig::PROFILE))
    described_class.plan(show).each { |address, value| desk.set(address, value) }
    show.settings.each do |path, value|
      address = described_class.address(path) or next
      expect(described_class.from_desk(path, desk.get(address))).to eq(value), path
    end
  end

  it "has the demo desk in step with the demo show" do
    data = JSON.parse(File.read(File.join(Loomshuttle::ROOT, "demo", "show.json")))
    show = Loomshuttle::Patch::Show.load(CoreHelp::PROFILE, data["about"], data["settings"])
    desk = Loomshuttle::StandIns::Desk::Settings.new(Loomshuttle::StandIns::Desk::Model.new(VirtualRig::PROFILE))
    Loomshuttle::StandIns::Desk::Memory.new("/nowhere", desk, first: File.join(Loomshuttle::ROOT, "demo", "desk.json"))
    different = described_class.plan(show).reject { |address, value| desk.get(address) == value }
    expect(different).to eq({})
  end
end

RSpec.describe "Device profiles" do
  let(:schema) { JSONSchemer.schema(JSON.parse(File.read(File.join(Loomshuttle::ROOT, "profiles", "profile.schema.json")))) }

  Dir[File.join(Loomshuttle::ROOT, "profiles", "*.json")].grep_v(/schema/).each do |path|
    it "#{File.basename(path)} is valid by the published schema" do
      expect(schema.validate(JSON.parse(File.read(path))).to_a).to eq([])
    end
  end

  it "are refused by the schema where they are wrong" do
    data = JSON.parse(File.read(File.join(Loomshuttle::ROOT, "profiles", "rowan-16.json")))
    data["card"]["sends"] = "many"
    expect(schema.validate(data).map { |error| error["data_pointer"] }).to eq(["/card/sends"])
  end
end
