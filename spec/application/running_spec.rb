# frozen_string_literal: true

# The whole application, as processes.
RSpec.describe "The running application" do
  let(:application) { RunningApplication.shared }

  # Other specs may have left another show open.
  before(:context) { RunningApplication.shared.fresh }

  def json(*arguments)
    out, err, code = application.command(*arguments, "--json")
    [JSON.parse(out), err, code]
  end

  it "answers health, and tells the whole state" do
    health = application.get("/api/health")
    expect(health).to include("database" => true, "recorder" => true, "desk" => true, "ok" => true, "aside" => [])
    expect(health["parts"].to_h { |part| part.values_at("name", "state") }).to eq(%w[database desk interface recorder player porter web].to_h { |name| [name, "running"] })
    expect(health["threads"].map { |thread| thread["part"] }.tally).to match("web" => be > 10, "recorder" => be > 3, "player" => be > 1)
    expect(health["threads"]).to all(include("alive" => true))
    expect(application.get("/api/state")).to include("desk" => { "up" => true, "apart" => 0, "stranger" => nil, "follows" => true })
  end

  describe "command line" do
    it "captures for a time and tells file by file, with levels that sox confirms" do
      document, _, code = json("capture", "--seconds", "1.5", "--name", "By hand")
      expect(code).to eq(0)
      expect(document).to include("frames" => 72_000, "rate" => 48_000, "gaps" => [])
      file = document["files"][3]
      expect(file).to include("name" => "Fiddle", "track" => 4, "frames" => 72_000)
      expect(file["peak_dbfs"]).to be_within(0.01).of(Tools.run("sox", file["path"], "-n", "stats")[/Pk lev dB\s+(\S+)/, 1].to_f)
    end

    it "lists strands, with one object each" do
      strands, _, code = json("strands")
      expect([strands.size, code]).to eq([39, 0])
      expect(strands[3]).to include("name" => "Fiddle", "socket" => "box-a/in/4", "send" => 4, "tap" => "preamp", "track" => 4, "return" => 4, "position" => "stage")
    end

    it "calls the roll: exit code 1 while a source is not good" do
      Tools.wait_until(60, "somebody to be heard") { application.get("/api/line-check")["lines"].any? { |line| line["verdict"] == "good" } }
      out, _, code = application.command("line-check")
      expect([code, out]).to match([1, /^channel\s+name\s+socket\s+verdict.*^16\s+Hurdy-gurdy\s+A 16\s+\S/m])
      expect(json("roll").first.size).to eq(32)
    end

    it "marks a take under way, and exports it" do
      id = application.capture("name" => "By hand")
      expect(json("mark", "Chorus").first).to include("name" => "Chorus")
      application.post("/api/capture/stop")
      take = application.take(id)
      document, = json("export", take["number"].to_s)
      packed, = json("export", take["number"].to_s, "--sound", "flac", "--form", "folder")
      expect(Dir[File.join(packed["result"], "*.flac")].size).to eq(take["tracks"].size)
      expect(document).to include("state" => "done", "form" => "zip")
      expect(Tools.run("unzip", "-l", document["result"])).to include("markers.csv"), -> { "no markers.csv of #{take.slice('frames', 'state', 'note', 'breaks', 'markers')}" }
    end

    it "flips channels by range, with those of their blocks, and back" do
      json("flip", "take", "--channels", "1-3,5,18")
      positions = application.get("/api/show")["channels"].select { |channel| channel["position"] == "take" }
      expect(positions.map { |channel| channel["number"] }).to eq([*1..8, *17..24])
      expect(application.get("/api/state")["desk"]).to include("up" => true, "apart" => 0)
      expect(application.command("flip", "stage").last).to eq(0)
    end

    it "checks: exit code 1 only when something blocks" do
      expect(application.command("checks").last).to eq(0)
      application.post("/api/edits", settings: { "send/2/source" => nil })
      out, _, code = application.command("checks")
      expect([code, out]).to match([1, /blocks: Track 2 is armed, but nothing reaches it/])
    ensure
      application.post("/api/undo")
    end

    it "plays a take and stops it" do
      take = json("capture", "--seconds", "1").first["take"]
      expect(json("play", take.to_s, "--loop").first).to include("number" => take, "loop" => true)
      expect(Tools.wait_until(60, "playback") { application.get("/api/state")["recorder"]["take_playback"] }).to include("number" => take)
      json("stop")
      expect(application.get("/api/state")["recorder"]["take_playback"]).to be_nil
    end

    it "says what is wrong on standard error, with an exit code that is not 0" do
      { %w[flip moon] => /stage or take/, %w[play 4711] => /no take 4711/, ["flip", "take", "--channels", "x"] => /not a channel or range/,
        ["capture", "--seconds", "0"] => /above 0/, ["nonsense"] => /nonsense/ }.each do |arguments, message|
        out, err, code = application.command(*arguments, "--json")
        expect([out, err, code]).to match(["", message, be_positive]), arguments.join(" ")
      end
      _, err, code = Open3.capture3(RbConfig.ruby, File.join(Loomshuttle::ROOT, "bin", "loomshuttle"), "status", "--port", Tools.free_tcp_port.to_s)
      expect([err, code.exitstatus]).to match([/Nothing answers on port/, 69])
    end
  end

  # The desk counts card returns that came after their time, as they may on a busy machine; then the sound has a hole and
  # it is tried again. Samples that came in time must be equal.
  it "brings a take back bit for bit over real sockets" do
    application.post("/api/edits", settings: { "setup/buffer" => 4096 }, wait: true)
    live = captured("Live", 8)
    application.post("/api/flip", "to" => "take")
    application.post("/api/edits", settings: (1..30).to_h { |n| ["send/#{n}/tap", "channel-in"] }, wait: true)
    again = Array.new(4) { played_again(live) }.find { |take, late| take && late.zero? }&.first
    expect(again).not_to be_nil, "card returns came late in each of four tries"
    expect([live["gaps"], again["gaps"]]).to eq([[], []])
    expect(equal_lanes(live, again, 5 * 48_000)).to eq([true] * 26)
  ensure
    application.post("/api/take-playback/stop")
    application.on_stage
    application.post("/api/edits", settings: (1..30).to_h { |n| ["send/#{n}/tap", nil] }.merge("setup/buffer" => 2048), wait: true)
  end

  # A second take of the first one's playback, and how many packets came late during it. Once one try was good, no more.
  def played_again(live)
    return if @good

    late = application.desk_fact("card/late")
    expect(application.post("/api/take-playback", "take" => live["number"])).to include("number" => live["number"])
    take = captured("Again", 7)
    application.post("/api/take-playback/stop")
    missed = application.desk_fact("card/late") - late
    @good = missed.zero?
    [take, missed]
  end

  def captured(name, seconds) = application.take(application.capture("name" => name, "frames" => seconds * 48_000))

  # Playback began a moment before or after the second capture: find where in the first take its second second stands.
  def equal_lanes(live, again, frames)
    mono = ->(take) { take["tracks"].select { |file| file["inputs"].size == 1 && file["inputs"].first <= 30 } }
    first, second = [live, again].map { |take| mono.call(take).map { |file| Loomshuttle::Formats::Wav::Reader.new(file["path"]).read[true, 0] } }
    probe = second[3][48_000...52_800]
    shift = (0...(48_000 * 3)).find { |at| first[3][at] == probe[0] && first[3][at...(at + 4800)] == probe } or return []
    first.each_index.map { |lane| first[lane][shift...(shift + frames)] == second[lane][48_000...(48_000 + frames)] }
  end

  it "shows a change made at the desk itself as a difference, and does not overwrite it" do
    desk = UDPSocket.new.tap { |socket| socket.connect("127.0.0.1", application.port + 2) }
    desk.send(Loomshuttle::Formats::Osc.pack("/set", 1, "strip/4/gain", 20.0), 0)
    Tools.wait_until(60, "the difference") { application.get("/api/state")["desk"]["apart"] == 1 }
    expect(application.get("/api/desk")["differences"]).to match([include("path" => "channel/4/gain", "what" => /Fiddle/, "plan" => /31/, "desk" => /20/)])
    expect(application.post("/api/desk/send")).to match("problems" => [], "copy" => be_positive)
    expect(application.get("/api/state")["desk"]["apart"]).to eq(0)
  end

  # What a take is listened to by, and what a ZIP is fetched by, is read as slowly as somebody likes.
  it "serves more paused listeners than it has threads, and gives each the rest when he goes on" do
    take = captured("Long", 8)
    path = "/api/takes/#{take['id']}/listen"
    listeners = Array.new(25) { paused(path) }
    expect(application.get("/api/health")["ok"]).to be(true)
    whole = Net::HTTP.get_response(URI("#{application.url}#{path}"))
    expect([whole.code, whole["accept-ranges"], whole.body.bytesize]).to eq(["200", "bytes", 44 + (take["frames"] * 4)])
    rest = Net::HTTP.start("127.0.0.1", application.port) { |http| http.get(path, "Range" => "bytes=700001-") }
    expect([rest.code, rest["content-range"], rest.body]).to eq(["206", "bytes 700001-#{whole.body.bytesize - 1}/#{whole.body.bytesize}", whole.body.byteslice(700_001..)])
    expect(Net::HTTP.start("127.0.0.1", application.port) { |http| http.get(path, "Range" => "bytes=99999999-") }.code).to eq("416")
    expect([listeners.first, listeners.last].map { |socket| socket.read.split("\r\n\r\n", 2).last }).to all(eq(whole.body))
  ensure
    listeners&.each(&:close)
  end

  # @return [Socket] of one who asked, got the first bytes and reads no more, with next to no room in between
  def paused(path)
    socket = Socket.new(:INET, :STREAM)
    socket.setsockopt(:SOCKET, :RCVBUF, 4096)
    socket.connect(Addrinfo.tcp("127.0.0.1", application.port))
    socket.write("GET #{path} HTTP/1.1\r\nHost: 127.0.0.1:#{application.port}\r\nConnection: close\r\n\r\n")
    socket.wait_readable(60) or raise "no answer"
    socket
  end

  it "belongs to its user alone: on loopback, and in its home" do
    application.take(application.capture("name" => "Private", "frames" => 4800))
    # The rest of its home is what specs have laid there.
    ours = ["{takes,jobs,logs,aside,deliveries}/**/*", "{lock,*.sdp,recorder.*,parts.json,open-show.json,desk*.json,*.password}"]
    open = Dir.glob(ours, File::FNM_DOTMATCH, base: application.home).reject { |name| name.end_with?("/.") }
      .select { |name| File.lstat(File.join(application.home, name)).mode.anybits?(0o077) }
    expect(open).to eq([])
    expect(File.stat(application.home).mode & 0o7).to eq(0)
    addresses = %w[web recorder desk porter].flat_map { |part| application.pids(part).flat_map { |pid| bound(pid) } }
    expect(addresses.uniq).to eq(["0100007F"])
    expect(addresses.size).to be > 10
  end

  # @return [Array<String>] local addresses of a process' IPv4 sockets, as the kernel writes them, and whatever IPv6 there is
  def bound(pid)
    inodes = Dir.glob("/proc/#{pid}/fd/*").filter_map { |fd| File.readlink(fd)[/socket:\[(\d+)\]/, 1] rescue nil } # rubocop:disable Style/RescueModifier
    %w[tcp udp tcp6 udp6].flat_map do |kind|
      File.readlines("/proc/#{pid}/net/#{kind}").drop(1).map(&:split)
    end.select { |fields| inodes.include?(fields[9]) }.map { |fields| fields[1].split(":").first }
  end

  it "serves more viewers of the live feed than it has threads, and goes on answering" do
    viewers = Array.new(25) do
      TCPSocket.new("127.0.0.1", application.port).tap { |socket| socket.write("GET /api/live HTTP/1.1\r\nHost: 127.0.0.1:#{application.port}\r\n\r\n") }
    end
    texts = viewers.map do |socket|
      Tools.wait_until(60, "levels") do
        (@text ||= +"") << socket.readpartial(8192)
        @text.include?("event: lanes") && @text.tap { @text = nil }
      end
    end
    expect(texts).to all(include("text/event-stream").and(include("event: state")))
    expect(application.get("/api/health")["ok"]).to be(true)
  ensure
    viewers&.each(&:close)
  end
end
