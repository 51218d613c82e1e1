# frozen_string_literal: true

# Doors that need no running application: thousands of hostile inputs, seeded, each let in as a value or refused in words. Any number by
# hand: HOSTILE=1000000 HOSTILE_SEED=7.
RSpec.describe "What gets in, door by door", :folder do
  include CoreHelp

  let(:random) { Random.new(Integer(ENV.fetch("HOSTILE_SEED", "20260613"))) }
  let(:count) { Integer(ENV.fetch("HOSTILE", "5000")) }

  # @yieldreturn what was made of an input
  # @return [Hash{Symbol=>Integer}] how many were let in and how many refused
  def each_input(count = self.count)
    told = Hash.new(0)
    count.times do
      yield
      told[:in] += 1
    rescue Loomshuttle::Invalid => e
      raise "refused without a word" unless e.message.match?(/\S/)

      told[:refused] += 1
    end
    expect(told.values_at(:in, :refused)).to all(be_positive)
    told
  end

  def damaged(bytes)
    bytes = bytes.dup
    random.rand(1..6).times { bytes.setbyte(random.rand(bytes.bytesize), random.rand(256)) }
    random.rand < 0.3 ? bytes.byteslice(0, random.rand(bytes.bytesize)) : bytes
  end

  def damaged_json(value, times: 1)
    text = Damage.text((1..times).reduce(value) { |now, _| Damage.value(now, random) }, random)
    JSON.parse(text, max_nesting: 32)
  rescue JSON::ParserError, JSON::GeneratorError, EncodingError
    nil
  end

  # W3C Fetch Metadata Request Headers.
  it "takes nothing that another site's page asks for, whatever it says of itself" do
    seen = 0
    guard = Loomshuttle::Web::Guard.new(->(_) { (seen += 1) && [200, {}, []] }, hosts: ["127.0.0.1"])
    values = HostileRequests::FETCH.transform_keys { |name| "HTTP_#{name.upcase.tr('-', '_')}" }
    count.times do
      method = %w[GET HEAD POST PUT DELETE TRACE OPTIONS PATCH x].sample(random: random)
      said = values.select { random.rand < 0.8 }.transform_values { |all| all.sample(random: random) }
      path = ["/", "/api/state", "/assets/x.js", "/api"].sample(random: random)
      before = seen
      status, = guard.call({ "REQUEST_METHOD" => method, "PATH_INFO" => path, "HTTP_HOST" => "127.0.0.1", "REMOTE_ADDR" => "127.0.0.1", "rack.url_scheme" => "http",
                             "CONTENT_TYPE" => ["application/json", "text/plain", nil].sample(random: random), **said })
      site = said["HTTP_SEC_FETCH_SITE"]
      foreign = !["same-origin", "none", nil].include?(site)
      opened = method == "GET" && said.values_at("HTTP_SEC_FETCH_MODE", "HTTP_SEC_FETCH_DEST") == %w[navigate document] && !path.start_with?("/api/")
      expect([status, seen - before]).to eq([403, 0]) if foreign && !opened
      expect(status).to be_between(200, 499)
    end
    expect(seen).to be_between(1, count - 1)
  end

  it "keeps a clock's time from going back or away, whatever packets come" do
    clock = Loomshuttle::Player::Clock.new
    now, mine, restarts = 0.0, 1000, 0
    count.times do
      now += 0.005
      mine += 240
      packet = ->(timestamp, source) { Loomshuttle::Formats::Rtp::Packet.new(97, 0, timestamp % (1 << 32), source, "") }
      clock.hear(packet.call(mine, 5), now)
      before = clock.time
      random.rand(4).times { clock.hear(packet.call([mine + random.rand(-50_000..50_000), random.rand(1 << 32)].sample(random: random), random.rand(6..9)), now) }
      clock.hear(packet.call(random.rand(1 << 32), 5), now) if random.rand < 0.05
      next unless before

      expect(clock.time).to be_between(before, before + 24_000)
      restarts = clock.restarts
    end
    expect([restarts, (clock.time - mine).abs < 24_000]).to eq([0, true])
  end

  it "reads MIDI files, or none" do
    file = Loomshuttle::Formats::MidiFile.new(480).tempo(0, 120).meter(0, 4, 4).meta(0, 0x03, "Song")
    40.times { |n| file.meta(n * 1920, 0x06, "Part #{n}").tempo((n * 1920) + 5, 90 + n) }
    good = file.to_s
    each_input { Loomshuttle::Songs::FromMidi.changes(Loomshuttle::Formats::MidiReader.new(random.rand < 0.05 ? good : damaged(good))) }
  end

  it "reads job files, or none" do
    id = "0b9e7a52-4a53-4c0e-9f0e-0d6f0f1d2c3b"
    common = { "id" => id, "state" => "waiting", "done" => 0, "total" => 0, "made_at" => "2026-06-13T20:30:00.000Z", "name" => "Set" }
    jobs = [common.merge("kind" => "export", "take" => "/takes/1", "number" => 1, "form" => "zip", "tracks" => [1], "from" => 0, "to" => 9),
            common.merge("kind" => "bring-in", "rate" => 48_000, "project" => "x", "started_at" => "2026-06-13T20:30:00Z", "form" => "take",
                         "items" => [{ "title" => "Tuba", "track" => 1, "lanes" => 1, "wide" => false, "offset" => 0, "files" => ["/a.wav"] }]),
            common.merge("kind" => "song", "rate" => 48_000, "form" => "song", "midi" => nil, "bpm" => 120,
                         "stems" => [{ "name" => "Tuba", "role" => "Brass", "lanes" => 1, "wide" => false, "files" => ["/a.wav"] }])]
    each_input { Loomshuttle::Formats::JobFile.check(damaged_json(jobs.sample(random: random)), id: id) }
  end

  it "reads parts of a preset, or none" do
    show = straight(4)
    all = show.set_settings
    each_input([count / 10, 100].max) do
      settings = all.to_a.sample(20, random: random).to_h
      settings = settings.merge(settings.keys.sample(random: random) => Damage::VALUES.sample(random: random)) if random.rand < 0.7
      if random.rand < 0.2
        settings = settings.merge(["channel/999/name", "x", "channel/1", "", "track/1/inputs/2",
                                   "rig/desk"].sample(random: random) => Damage::VALUES.sample(random: random))
      end
      Loomshuttle::Steps::Propose.for(show, "recall", "settings" => settings, "label" => "Recall preset").edit.apply(show)
    end
  end

  it "reads profiles, or none" do
    profiles = %w[alder-40 bramble-16 fern-12-twin].map { |name| JSON.parse(File.read(File.join(Loomshuttle::ROOT, "profiles", "#{name}.json"))) }
    each_input([count / 50, 50].max) do
      data = random.rand < 0.1 ? profiles.sample(random: random) : damaged_json(profiles.sample(random: random), times: random.rand(1..3))
      data = Loomshuttle::Document.keep(data, "profile") # as Door does
      Loomshuttle::Web::Schemas.check(:profile, data)
      Loomshuttle::Rig::Profile.from(data).id
    end
  end

  it "answers lines of JSON-RPC in JSON, by the codes of its standard and our own" do
    called = 0
    methods = Loomshuttle::Recorder::Requests::ALL.transform_values { ->(**) { (called += 1) && { "done" => true } } }
    rpc = Loomshuttle::Runtime::Rpc.new(methods, Loomshuttle::Recorder::Requests::ALL)
    codes = Hash.new(0)
    count.times do
      answer = rpc.answer(HostilePackets.line(random)) or next
      [JSON.parse(answer)].flatten(1).each { |one| codes[one.dig("error", "code")] += 1 }
    end
    expect(codes.keys - [-32_700, -32_600, -32_601, -32_602, 1, nil]).to eq([])
    expect([called, codes[-32_700]]).to all(be_positive)
  end
end
