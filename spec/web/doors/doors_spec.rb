# frozen_string_literal: true

RSpec.describe Loomshuttle::Web::Guard do
  let(:seen) { [] }
  let(:inner) { ->(env) { (seen << env) && [200, { "content-type" => "text/plain" }, ["in"]] } }
  let(:guard) { described_class.new(inner, hosts: %w[127.0.0.1 localhost ::1], proxy: proxy) }
  let(:proxy) { nil }

  def ask(headers = {}, method: "GET", type: nil)
    guard.call({ "REQUEST_METHOD" => method, "PATH_INFO" => "/api/state", "HTTP_HOST" => "127.0.0.1:4040", "REMOTE_ADDR" => "127.0.0.1", "rack.url_scheme" => "http",
                 "CONTENT_TYPE" => type, **headers })
  end

  def status(...) = ask(...).first

  it "goes by the Host that was asked, and lets nothing that was forwarded have a say" do
    expect(["127.0.0.1:4040", "localhost", "[::1]:4040", "LOCALHOST:1"].map { |host| status({ "HTTP_HOST" => host }) }).to eq([200] * 4)
    expect(["evil.example", "127.0.0.1.evil.example", "", nil, "127.0.0.1@evil", "localhost\r\nx", "127.0.0.1:99999999"].map do |host|
      status({ "HTTP_HOST" => host })
    end).to eq([403] * 7)
    forwarded = { "HTTP_X_FORWARDED_HOST" => "127.0.0.1", "HTTP_FORWARDED" => "host=127.0.0.1" }
    expect(status({ "HTTP_HOST" => "evil.example", **forwarded })).to eq(403)
    ask({ "HTTP_X_FORWARDED_HOST" => "evil.example", "HTTP_FORWARDED" => "host=evil.example" })
    expect(Rack::Request.new(seen.last).host).to eq("127.0.0.1")
  end

  context "with a proxy that was named" do
    let(:proxy) { "10.0.0.5" }

    it "believes that one, and no other" do
      forged = { "HTTP_HOST" => "proxy.example", "HTTP_X_FORWARDED_HOST" => "localhost" }
      expect([status({ **forged, "REMOTE_ADDR" => "10.0.0.5" }), status({ **forged, "REMOTE_ADDR" => "10.0.0.6" })]).to eq([200, 403])
    end
  end

  it "takes changes as JSON only, from our own pages only, and files as files" do
    json = "application/json; charset=utf-8"
    expect(%w[POST DELETE].map { |method| status(method: method, type: json) }).to eq([200, 200])
    expect([status(method: "POST", type: "text/plain"), status(method: "POST"), status(method: "PUT", type: json),
            status(method: "POST", type: "application/jsonx")]).to eq([415] * 4)
    expect([ask(method: "PUT", type: json), ask(method: "POST", type: nil)].map { |answer| answer.last.join[/only with [^"]+/] }).to eq(
      ["only with Content-Type: application/octet-stream.", "only with Content-Type: application/json."]
    )
    expect([status(method: "PUT", type: "application/octet-stream"), status(method: "TRACE"), status({ "HTTP_ORIGIN" => "http://evil.example" })]).to eq([200, 405, 403])
  end

  # W3C Fetch Metadata Request Headers: sites, modes and destinations as browsers tell them.
  it "lets nothing in that another site's page asks for, but a link that opens the page" do
    fetch = ->(site, mode = "cors", dest = "empty") { { "HTTP_SEC_FETCH_SITE" => site, "HTTP_SEC_FETCH_MODE" => mode, "HTTP_SEC_FETCH_DEST" => dest } }
    expect(%w[same-origin none].map { |site| status(fetch[site]) }).to eq([200, 200])
    expect(%w[cross-site same-site odd].map { |site| status(fetch[site]) }).to eq([403] * 3)
    link = fetch["cross-site", "navigate", "document"]
    page = { "PATH_INFO" => "/" }
    refused = [status(link), status({ **link, **page }, method: "POST", type: "application/json"), status({ **fetch["cross-site", "navigate", "iframe"], **page }),
               status({ **fetch["cross-site", "no-cors", "image"], "PATH_INFO" => "/x.png" })]
    expect([status({ **link, **page }), refused]).to eq([200, [403] * 4])
  end

  it "answers what goes wrong behind it, with all headers" do
    broken = described_class.new(->(_) { raise "oh" }, hosts: ["127.0.0.1"])
    answer = nil
    expect { answer = broken.call({ "REQUEST_METHOD" => "GET", "PATH_INFO" => "/", "HTTP_HOST" => "127.0.0.1" }) }.to output(/oh \(RuntimeError\)/).to_stderr
    expect([answer.first, answer[1]["x-content-type-options"], answer[1]["content-security-policy"]]).to match([500, "nosniff", /default-src 'none'/])
  end
end

RSpec.describe Loomshuttle::Web::Door do
  let(:door) { described_class.new(->(env) { [200, {}, [JSON.generate(env[described_class::BODY])]] }) }

  def ask(path: "/api/edits", query: "", body: "", type: "application/json")
    status, _, text = door.call({ "PATH_INFO" => path, "QUERY_STRING" => query, "CONTENT_TYPE" => type, "rack.input" => StringIO.new(body) })
    [status, text.first]
  end

  def refused(**options) = ask(**options).then { |status, text| [status, JSON.parse(text)["error"]["where"]] }

  it "lets addresses and queries in that can be read, each name once" do
    expect(ask(path: "/api/takes/%C3%A9", query: "from=1&to=2").first).to eq(200)
    ["/%ff", "/%00", "/a%0db", "/#{'x' * 3000}", "/%E2%80"].each { |path| expect(refused(path: path)).to match([400, be_a(String)]), path }
    ["a=1&a=2", "a[]=1", "a=1&a[]=2", "=", "a=%ff", "a=%00", "A=1", "x" * 5000].each { |query| expect(refused(query: query)).to match([400, be_a(String)]), query }
  end

  it "lets bodies in whose text and numbers can be kept, in one normal form" do
    expect(ask(body: JSON.generate("name" => "e\u0301", "n" => [1, 1.5, nil, true]))).to eq([200, '{"name":"é","n":[1,1.5,null,true]}'])
    { "{" => "body", "[]" => "body", "1" => "body", '{"a":"\\ud800"}' => "body", '{"a":"\\u0000"}' => "body/a", '{"a":9007199254740993}' => "body/a", '{"a":1e999}' => "body/a",
      "{\"a\":#{'[' * 40}1#{']' * 40}}" => "body", "{\"a\":\"\xff\"}" => "body/a", '{"\\u0000":1}' => "body" }.each do |body, where|
      expect(refused(body: body)).to eq([400, where]),
                                     body
    end
  end

  it "lets no more in than a route has a use for" do
    big = JSON.generate("a" => "x" * (300 << 10))
    expect([ask(body: big).first, refused(path: "/api/capture", body: big)]).to eq([200, [413, "size"]])
    expect(refused(path: "/api/shows", body: JSON.generate("a" => "x" * (9 << 20)))).to eq([413, "size"])
  end
end

RSpec.describe "Requests without coercion" do
  include_context "with the API"

  around { |example| Dir.mktmpdir { |dir| (@folder = dir) && example.run } }

  it "take no text for a number, and no number for text" do
    { "/api/exports" => { take: 1, form: "zip", to: "1" }, "/api/take-playback" => { take: 1, from: "0" }, "/api/capture" => { frames: "4800" },
      "/api/capture/rest" => { tracks: ["1"], resting: true },
      "/api/ticks" => { kind: "heard", subject: 1, on: true }, "/api/edits" => { settings: { "setup/bits" => 24 }, version: "1" }, "/api/flip" => { to: "stage", channels: [1.5] } }
      .each do |path, body|
        post_json(path, body)
        expect([last_response.status, path]).to eq([400, path])
        expect(JSON.parse(last_response.body)["error"]).to include("message" => /is not valid/)
      end
  end

  it "say what is not there, where ids are beyond any" do
    get("/api/journal/99999999999999999999")
    expect(last_response.status).to eq(400)
    get("/api/trace?point=x")
    expect([last_response.status, JSON.parse(last_response.body)["error"]["where"]]).to eq([422, "point"])
    get("/api/compare?one=now&other=show/99999999999999999")
    expect(last_response.status).to be_between(400, 422)
    put("/api/deliveries/#{'a' * 36}/files/#{'x' * 300}.wav", "RIFF", "CONTENT_TYPE" => "application/octet-stream")
    expect(last_response.status).to be_between(400, 422)
    header("X-Loomshuttle-Who", "%00%ff%zz")
    tell("/api/edits", settings: { "channel/1/name" => "Tuba" })
    expect(ask("/api/journal").first["who"]).to match(/\A\S/)
  end
end

RSpec.describe Loomshuttle::Web::HeadAsGet do
  it "asks what stands behind it as a GET, and gives the head alone" do
    seen, closed = [], []
    body = Object.new
    body.define_singleton_method(:close) { closed << :closed }
    app = described_class.new(->(env) { (seen << env) && [200, { "content-length" => "7" }, body] })
    expect(app.call("REQUEST_METHOD" => "HEAD")).to eq([200, { "content-length" => "7" }, []])
    expect(app.call("REQUEST_METHOD" => "GET").last).to equal(body)
    expect(seen.map { |env| env.values_at("REQUEST_METHOD", described_class::ASKED) }).to eq([["GET", true], ["GET", nil]])
    expect(closed).to eq([:closed])
  end
end

RSpec.describe Loomshuttle::Web::SlowAnswers do
  let(:answers) { described_class.new(seconds: 0.2).tap(&:start) }

  after { answers.stop }

  it "makes one at a time, and what was made once no more" do
    running, most, made = 0, 0, 0
    work = lambda do
      made += 1
      most = [most, running += 1].max
      Thread.pass
      running -= 1
      "bytes"
    end
    results = Array.new(6) { |n| Thread.new { answers.of([n % 3], &work) } }.map(&:value)
    expect([results.uniq, most, made]).to eq([["bytes"], 1, 3])
  end

  it "gives up what takes too long, and goes on" do
    expect { answers.of([1]) { sleep } }.to raise_error(Loomshuttle::Busy, /took longer than 0.2 s/)
    expect(answers.of([1]) { "fine" }).to eq("fine")
  end

  it "refuses more than may wait, passes on what was refused inside, and keeps little" do
    stub_const("#{described_class}::WAITING", 2)
    held = Queue.new
    slow = described_class.new(seconds: 30).tap(&:start)
    threads = [Thread.new { slow.of([0]) { held.pop } }]
    Tools.wait_until(20, "it to be made") { held.num_waiting == 1 }
    threads += Array.new(2) { |n| Thread.new { slow.of([n + 1]) { "x" } } }
    Tools.wait_until(20, "two to wait") { slow.instance_variable_get(:@jobs).size == 2 }
    expect { slow.of([9]) { "x" } }.to raise_error(Loomshuttle::Busy, /Too many requests/)
    held << "y"
    threads.each(&:join)
    expect { slow.of([5]) { raise Loomshuttle::Invalid, "No." } }.to raise_error(Loomshuttle::Invalid, "No.")
    60.times { |n| slow.of([n, "kept"]) { "x" } }
    expect(slow.instance_variable_get(:@kept).size).to eq(described_class::KEPT)
  ensure
    slow&.stop
  end
end
