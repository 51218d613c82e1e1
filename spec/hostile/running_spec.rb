# frozen_string_literal: true

# Thousands of hostile requests, packets and lines at the doors of a running application, with a take under way: no process ends, nothing
# hangs, nothing grows, nothing that was set is changed, and the take is whole. Any number by hand: HOSTILE=100000 HOSTILE_SEED=7.
RSpec.describe "What gets in" do
  let(:application) { RunningApplication.shared }
  let(:count) { Integer(ENV.fetch("HOSTILE", "5000")) }
  let(:seed) { Integer(ENV.fetch("HOSTILE_SEED", "20260613")) }
  let(:parts) { %w[web recorder desk porter postgres] }

  before { application.fresh }

  after do
    application.post("/api/capture/stop")
    application.on_stage
  end

  # Of PostgreSQL the first process is meant; it has others that come and go.
  def pids = parts.to_h { |part| [part, part == "postgres" ? application.pids(part).min : application.pids(part)] }
  def resident(part) = application.pids(part).sum { |pid| File.read("/proc/#{pid}/status")[/VmRSS:\s+(\d+)/, 1].to_i / 1024 }
  def settings = application.get("/api/papers/show.json")

  # A take under way, and what must be as it was afterwards.
  def untouched
    before = [pids, settings]
    id = application.capture("name" => "Under attack")
    yield
    expect(pids).to eq(before.first)
    expect(settings).to eq(before.last)
    expect(application.get("/api/health")["ok"]).to be(true)
    application.post("/api/capture/stop")
    take = application.take(id)
    expect(take).to include("state" => "complete", "gaps" => [], "name" => "Under attack")
    take["tracks"].first(2).each { |track| expect(Tools.run("sndfile-info", track["path"])).to match(/Frames\s*: #{take['frames']}\b/) }
  end

  # Some are good enough to change something: that is undone, so that the others are held against the same show.
  it "over HTTP is answered with what, where and what to do, by less than 500, with security headers" do
    requests = HostileRequests.new(application.port, seed)
    wrong = []
    before = pids
    resident_before = resident("web")
    (count / 5).times do
      status, headers, text, words = requests.one
      wrong << [status, words, text[0, 200]] unless status.between?(200, 499)
      wrong << ["a body to HEAD", words] if words.start_with?("HEAD ") && !text.empty?
      wrong << ["headers", words] if headers.key?("content-type") && headers["x-content-type-options"] != "nosniff"
      next unless status.between?(400, 499) && !text.empty? && headers["content-type"].to_s.start_with?("application/json")

      error = JSON.parse(text)["error"]
      wrong << ["words", words, text[0, 200]] unless error["message"].to_s.match?(/\S/) && error.key?("where")
    end
    expect(wrong.map(&:inspect).first(10)).to eq([])
    expect(pids).to eq(before)
    expect(application.get("/api/health")).to include("ok" => true, "troubles" => {})
    expect(resident("web")).to be < resident_before + 400
  end

  it "as OSC to the desk changes nothing that a request does not set, and ends nothing" do
    random = Random.new(seed)
    socket = UDPSocket.new.tap { |one| one.connect("127.0.0.1", application.port + 2) }
    untouched do
      resident_before = resident("desk")
      (count * 4 / 15).times do |n|
        socket.send(HostilePackets.osc(random), 0)
        application.desk_fact("name") if (n % 50).zero? # so that no queue overflows
      end
      expect(application.desk_fact("name")).to eq("Alder 40")
      expect(resident("desk")).to be < resident_before + 100
    end
  end

  it "as RTP to the recorder costs the take nothing, and is counted" do
    random = Random.new(seed)
    socket = UDPSocket.new
    untouched do
      resident_before = resident("recorder")
      (count * 4 / 15).times do |n|
        socket.send(HostilePackets.rtp(random), 0, "127.0.0.1", application.port + 10 + (2 * random.rand(5)))
        sleep(0.002) if (n % 20).zero?
      end
      # What the look-back holds grows during this, by a known figure.
      expect(resident("recorder")).to be < resident_before + 150
    end
    expect(application.get("/api/state")["recorder"]["foreign"]).to be > 100
  end

  it "as lines to the recorder is refused in words" do
    random = Random.new(seed)
    codes = Hash.new(0)
    untouched do
      (count * 4 / 15).times do
        answer = HostilePackets.ask(File.join(application.home, "recorder.sock"), HostilePackets.line(random))
        next codes[:closed] += 1 unless answer

        answers = answer.is_a?(Array) ? answer : [answer]
        answers.each { |one| codes[one.dig("error", "code")] += 1 }
      end
    end
    expect(codes.keys - [-32_700, -32_600, -32_601, -32_602, 1, nil, :closed]).to eq([])
    expect(codes[1]).to be > 50
  end
end
