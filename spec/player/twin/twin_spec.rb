# frozen_string_literal: true

# A second player follows the first over a real line, on a virtual clock that both hear.
RSpec.describe Loomshuttle::Player::Follower, :folder do
  let(:songs) { File.join(@folder, "songs") }
  let(:two) { TwoPlayers.new(songs) }
  let(:configs) { two.players.map { |player| player.instance_variable_get(:@config) } }
  let(:port) { TCPServer.open("127.0.0.1", 0) { |server| server.addr[1] } }
  let(:leader) { Loomshuttle::Player::Leader.new("127.0.0.1", port, code: -> { "123456" }, digest: -> { digest(0) }) }
  let(:follower) { described_class.new(two.players[1], digest: -> { digest(1) }) }

  def digest(number) = Loomshuttle::Player::Twin.digest(configs[number], Loomshuttle::Player::SongReader.new(songs, 48_000))

  before do
    # The leader sends its state here only on request, so a slow machine must not count as a lost connection.
    stub_const("Loomshuttle::Player::Twin::SILENT", 60)
    id = SongFolder.write(songs, { "Strings" => SongFolder.noise(960_000, 3) }, click: { "on" => false })
    roles = [["Strings", "parts", 1], ["Pilot", "pilot", 12]].map { |name, kind, output| { "name" => name, "kind" => kind, "outputs" => [output] } }
    two.configure(items: [{ "key" => 1, "song" => id }], roles: roles, pilot: { "hz" => 19_000, "level_db" => -30, "mute" => false })
    two.run(4800)
    two.players[0].leader = leader.tap(&:start)
  end

  after do
    follower.stop
    leader.close
  end

  def pair
    follower.follow({ "host" => "127.0.0.1", "port" => port, "code" => "123456" })
    Tools.wait_until(20, "the follower") { leader.count == 1 }
  end

  # The leader is asked; the clock goes on once the follower knows.
  def ask(what, **with)
    two.players[0].command(what, **with)
    Tools.wait_until(20, "the follower to know") { two.players[1].status["waiting"] == 1 }
    two.run(7200)
  end

  # Again and again, as a leader does: who has only just come may not have heard the first.
  def tell_state
    Tools.wait_until(20, "the state") do
      two.players[0].tell_state(digest(0))
      yield(follower.status)
    end
  end

  def places = two.players.map { |player| player.place.then { |place| place["playing"] && (place["position"] - place["time"]) } }

  it "does what the first one does, at the same samples, through jumps, loops and fades" do
    pair
    two.players[0].load(item: 1)
    Tools.wait_until(20, "the song to be on") { two.players[1].status["song"] }
    ask("play")
    expect(places.uniq.size).to eq(1)
    ask("jump", section: 0, at_next: "beat")
    ask("around", on: true)
    expect(two.players.map { |player| player.status.values_at("position", "time", "around") }.uniq.size).to eq(1)
    tell_state { |status| status["apart"]&.zero? }
    ask("fade", seconds: 0.1)
    expect(two.players.map { |player| player.status.values_at("state", "position") }.uniq).to match([["stopped", be >= 0]])
  end

  # A command is sent once; sent into a connection that is about to close, it is lost.
  it "keeps its new connection if it connects before the call that started it returns" do
    allow(Loomshuttle::Runtime::Worker).to receive(:start).and_wrap_original do |start, *names, **options, &work|
      start.call(*names, **options, &work).tap { Tools.wait_until(20, "the line") { leader.count == 1 && follower.instance_variable_get(:@line) } }
    end
    pair
    line = follower.instance_variable_get(:@line)
    tell_state { |status| status["connected"] }
    expect(follower.instance_variable_get(:@line)).to equal(line)
  end

  it "leaves the first leader at once when told to follow another" do
    pair
    tell_state { |status| status["connected"] }
    follower.follow({ "host" => "127.0.0.1", "port" => port, "code" => "654321" })
    Tools.wait_until(20, "the words") { follower.status["problem"] == "Wrong pairing code." }
    Tools.wait_until(20, "the leader to know") do
      two.players[0].tell_state(digest(0))
      leader.count < 1
    end
  end

  it "follows nobody by another code, and says so" do
    follower.follow({ "host" => "127.0.0.1", "port" => port, "code" => "654321" })
    # It tries again and again, so that the words come and go.
    Tools.wait_until(20, "the words") { follower.status.then { |status| status["problem"] == "Wrong pairing code." && !status["connected"] } }
    expect(leader.count).to eq(0)
  end

  it "names what is not the same" do
    pair
    tell_state { |status| status["connected"] }
    expect(follower.status["differs"]).to eq([])
    two.players[1].configure(roles: [{ "name" => "Strings", "kind" => "parts", "outputs" => [2] }])
    path = Dir[File.join(songs, "*", "song.json")].first
    kept = File.read(path)
    tell_state { |status| status["differs"] == ["roles and outputs"] }
    told = Loomshuttle::Player::Twin.digest(configs[0], Loomshuttle::Player::SongReader.new(songs, 48_000))
    File.write(path, JSON.generate(JSON.parse(kept).merge("trim_db" => -3)))
    expect(Loomshuttle::Player::Twin.differences(told, digest(0))).to eq(["Tide"])
  end

  it "goes on alone where the line is cut, and catches up with a song under way" do
    two.players[0].load(item: 1)
    two.players[0].command("play")
    two.run(24_000)
    pair
    tell_state { two.players[1].status["waiting"] == 1 }
    two.run(24_000)
    expect(places.uniq.size).to eq(1)
    leader.close
    two.run(24_000)
    expect(places.uniq.size).to eq(1)
    expect(two.players[1].status["state"]).to eq("playing")
  end

  describe "with a song that plays before it comes" do
    before do
      two.players[0].load(item: 1)
      two.players[0].command("play")
      two.run(24_000)
      pair
    end

    def state = two.players[1].status["state"]

    it "does not begin it any more once the first one was stopped" do
      tell_state { two.players[1].status["waiting"] == 1 }
      heard = []
      allow(two.players[1]).to(receive(:follow_command).and_wrap_original { |obey, what, *more| obey.call(what, *more).tap { heard << what } })
      two.players[0].command("stop")
      Tools.wait_until(20, "the follower to know") { heard == ["stop"] }
      two.run(48_000)
      expect(two.players.map { |player| player.place["playing"] }).to eq([false, false])
    end

    it "believes no letter that crossed the stop on its way, nor one from before its end" do
      late = two.players[0].place.transform_keys(&:to_sym)
      two.players[0].command("stop")
      Tools.wait_until(20, "the follower to know") { two.players[1].status["waiting"] == 1 }
      3.times { leader.tell("state", digest: digest(0), **late, time: late[:time] + 1200) }
      two.run(24_000)
      leader.tell("state", digest: digest(0), **two.players[0].place.transform_keys(&:to_sym), playing: true, position: 24_000)
      Tools.wait_until(20, "the state") { follower.status["connected"] }
      two.run(24_000)
      expect(state).not_to eq("playing")
    end

    it "believes no single letter, however many there were before it that were not true any more" do
      now = two.players[0].place.transform_keys(&:to_sym)
      [true, false, true].each { |playing| leader.tell("state", digest: digest(0), **now, playing: playing) }
      leader.tell("load", song: "00000000-0000-4000-8000-000000000000")
      Tools.wait_until(20, "the last letter") { follower.status["problem"] }
      expect(two.players[1].status["waiting"]).to eq(0)
    end

    it "catches up when something kept it from it the first time" do
      tell_state { two.players[1].status["waiting"] == 1 }
      two.players[1].deck.at(two.players[1].deck.time)
      Tools.wait_until(20, "it to catch up") do
        two.players[0].tell_state(digest(0))
        two.run(2400)
        places.uniq.size == 1
      end
    end

    it "is not with a leader that is fading out" do
      two.players[0].command("fade", seconds: 5)
      two.run(9600)
      Array.new(20) { two.players[0].tell_state(digest(0)) }
      Tools.wait_until(20, "the state") { follower.status["connected"] }
      two.run(24_000)
      expect(state).not_to eq("playing")
    end
  end

  # A code that is typed here goes to no computer out in the world (RFC 5737: addresses for documentation).
  it "follows nobody outside its own networks" do
    { "203.0.113.7" => /203.0.113.7 is not on a network of our own/, "nobody.invalid" => /no computer nobody.invalid/ }.each do |host, words|
      follower.follow({ "host" => host, "port" => port, "code" => "123456" })
      expect(Tools.wait_until(60, "a word about #{host}") { follower.status["problem"].to_s[words] }).to be_a(String)
    end
  end

  it "is connected with another one only when that one has answered" do
    pair
    tell_state { |status| status["connected"] }
    silent = TCPServer.new("127.0.0.1", 0)
    follower.follow({ "host" => "127.0.0.1", "port" => silent.addr[1], "code" => "123456" })
    expect(Array.new(50) { follower.status["connected"].tap { two.players[0].tell_state(digest(0)) } }).to all(be(false))
  ensure
    silent&.close
  end

  # One began before the 32 bits of the clock went round, the other one after.
  it "is at the same sample though the two have begun on either side of the clock's wrap" do
    two.players[1].clock.instance_variable_set(:@time, two.players[1].clock.time + (1 << 32))
    two.players[1].deck.at(two.players[1].deck.time + (1 << 32))
    pair
    two.players[0].load(item: 1)
    Tools.wait_until(20, "the song to be on") { two.players[1].status["song"] }
    ask("play")
    expect(two.players.map { |player| player.status.values_at("state", "position") }.uniq).to match([["playing", be_positive]])
    tell_state { |status| status["apart"] == -(1 << 32) || status["apart"]&.zero? }
    expect(follower.status["apart"]).to eq(0)
  end

  it "refuses a command with what it does not take, and goes on, whenever that was to be done" do
    pair
    two.players[0].load(item: 1)
    Tools.wait_until(20, "the song to be on") { two.players[1].status["song"] }
    leader.tell("do", what: "play", with: { seconds: 1 }, at: two.players[1].deck.time + 2400)
    Tools.wait_until(20, "the words") { follower.status["problem"] == "play takes no seconds." }
    leader.tell("do", what: "fade", with: {}, at: two.players[1].deck.time + 2400)
    Tools.wait_until(20, "the words") { follower.status["problem"] == "fade needs seconds." }
    two.run(7200)
    ask("play")
    expect(two.players[1].status["state"]).to eq("playing")
  end

  it "listens to few who have not said who they are" do
    leader
    sockets = Array.new(8) { TCPSocket.new("127.0.0.1", port) }
    turned_away = Tools.wait_until(20, "some to be turned away") { sockets.select { |socket| socket.wait_readable(0) }.then { |list| list if list.size >= 4 } }
    expect(turned_away.size).to eq(4)
    sockets.each(&:close)
    pair
  end

  def guess
    socket = TCPSocket.new("127.0.0.1", port)
    socket.puts(JSON.generate(code: "000000", digest: {}))
    socket.read
  end

  it "looks at codes one after the other, more slowly after each wrong one, on however many connections" do
    stub_const("#{Loomshuttle::Player::Leader}::WRONG", 0.05)
    slept = Queue.new
    allow(leader).to receive(:sleep) { |seconds| slept << [seconds, leader.instance_variable_get(:@guessing).locked?] }
    3.times do
      Array.new(3) { Thread.new { guess } }.each(&:join)
    end
    waits = Array.new(slept.size) { slept.pop }
    expect(waits.map(&:first)).to eq([0.05, 0.1, 0.2, 0.4, 0.8, 1.6, 3.2, 5, 5])
    expect(waits.map(&:last).uniq).to eq([true])
    pair
    guess
    expect(slept.pop.first).to eq(0.05) # forgotten once the right one came
  end

  it "takes nothing from strangers that is not a word of ours" do
    ["[]", "{}", "x", "{\"do\":1}", "{\"do\":{\"what\":\"play\",\"with\":{\"sample\":-1},\"at\":0}}", "{\"load\":{\"song\":\"../x\"}}"].each do |line|
      expect { Loomshuttle::Player::Twin.read(line) }.to raise_error(Loomshuttle::Invalid)
    end
    socket = TCPSocket.new("127.0.0.1", port)
    socket.puts(Random.new(1).bytes(1000))
    expect(socket.read).to eq("")
    expect(leader.count).to eq(0)
  end
end
