# frozen_string_literal: true

# Songs to the stage, on the real processes: the interface, its cables into the desk, and what happens to a song when other parts are in
# trouble.
RSpec.describe "Songs on the running application", :own_application do
  let(:application) { @application }
  let(:strings) { SongFolder.noise(48_000 * 40, 5) }

  before(:context) do
    @application = RunningApplication.new
    SongFolder.write(File.join(@application.home, "songs"), { "Strings" => SongFolder.noise(48_000 * 40, 5) }, id: "5a175a17-0000-4000-8000-000000000001", click: { "on" => false })
    @application.start.open_show(RunningApplication::CLEAN)
  end

  after(:context) { @application.stop && @application.remove }

  def player = application.get("/api/player")["player"]
  def press(command, **more) = application.post("/api/player", { "command" => command }.merge(more.transform_keys(&:to_s)))
  def playing_on(seconds) = player.then { |status| status["state"] == "playing" && status["position"] > seconds * 48_000 }

  def play
    Tools.wait_until(60, "the player's clock") { player&.fetch("clock") }
    press("stop")
    Tools.wait_until(60, "the song to be over") { player["state"] != "playing" && player["state"] != "stopping" }
    press("load", item: 1)
    press("play", sample: 0)
    Tools.wait_until(60, "the song to play") { playing_on(0.5) }
  end

  # On a machine that is busy for a moment some of a take is silent, but none of it is wrong, and the next take is silent elsewhere; a fault that
  # swallows sound swallows the same of each.
  # @return [Float] share of the song that was heard in one take or another, of what all of them cover
  def share_heard(name)
    covered, heard, share = nil
    6.times do |number|
      take = captured("#{name} #{number + 1}")
      expect(SongFolder.held_against(take, 34, strings)).to match([be > 0.5, 0])
      range, sounding = SongFolder.sounding(take, 34, strings)
      covered = covered ? [covered.begin, range.begin].max...[covered.end, range.end].min : range
      heard = heard ? heard | sounding : sounding
      share = heard[covered].count_true.fdiv(covered.size)
      break if share > 0.98
    end
    share
  end

  def captured(name)
    play
    id = application.capture("name" => name)
    Tools.wait_until(60, "some seconds of it") { playing_on(6) }
    application.post("/api/capture/stop")
    application.take(id)
  end

  it "arrives in the desk's channel bit by bit, and in the take" do
    application.post("/api/edits", "settings" => { "send/34/source" => "desk/ch/34", "send/34/tap" => "channel-in", "track/34/inputs" => [34], "track/34/armed" => true })
    # The role goes to both sides 3 dB lower; on the left one alone it is as it is.
    application.post("/api/edits", "settings" => { "role/1/outputs" => [1] })
    Tools.wait_until(60, "the desk in step") { application.get("/api/state")["desk"]["apart"]&.zero? }
    expect(share_heard("Along")).to be > 0.98
  end

  it "arrives by a card return that playback has to itself, bit by bit, while the recorder plays a take by others" do
    application.post("/api/edits", "settings" => { "playback/returns" => [25], "channel/34/stage" => "card/return/25", "role/1/outputs" => [1], "send/34/source" => "desk/ch/34",
                                                   "send/34/tap" => "channel-in", "track/34/inputs" => [34], "track/34/armed" => true,
                                                   **(25..32).to_h { |number| ["track/#{number}/outputs", []] } })
    before = application.take(application.capture("name" => "Before", "frames" => 96_000))
    Tools.wait_until(60, "the player at the card's clock") { player.values_at("by_card", "clock") == [true, true] }
    expect(application.post("/api/take-playback", "take" => before["id"], "loop" => true)).not_to include("error")
    expect(share_heard("By the card")).to be > 0.98
  ensure
    application.post("/api/take-playback/stop")
    press("stop")
    application.open_show(RunningApplication::CLEAN) && application.post("/api/undo")
    Tools.wait_until(60, "the player at the interface's clock") { player.values_at("by_card", "clock") == [false, true] }
  end

  it "lists this computer's sound cards, and takes none that it did not list" do
    expect(application.get("/api/player/sound-devices")).to all(include("id", "words"))
    answer = application.post("/api/player/sound", "id" => "0123456789ab")
    expect(answer["error"]).to include("where" => "device", "message" => "There is no such sound device now; look at the list again.")
    expect(player["sound"]).to be_nil
  end

  it "goes on while the web stands still and the database is gone" do
    play
    web, = application.pids("web")
    Process.kill(:STOP, web)
    application.pids("postgres").each { |pid| Process.kill(:KILL, pid) }
    Tools.wait_until(60, "the song to go on") { ask_player("status").then { |status| status["state"] == "playing" && status["position"] > 4 * 48_000 } }
    expect(ask_player("status")["missed"]).to eq(0)
  ensure
    Process.kill(:CONT, web)
    Tools.wait_until(60, "the application") { application.well? }
  end

  it "is back after kill -9 with its order and roles, and a capture under way never noticed" do
    id = application.capture("name" => "Without the player")
    application.pids("player").each { |pid| Process.kill(:KILL, pid) }
    Tools.wait_until(60, "the player") { application.well? && player&.fetch("clock") && player["items"].any? }
    press("load", item: 1)
    press("play")
    Tools.wait_until(60, "the song") { player["state"] == "playing" }
    application.post("/api/capture/stop")
    expect(application.take(id)).to include("state" => "complete", "gaps" => [], "breaks" => [])
  end

  it "stands still with the interface and goes on with it, and says so" do
    play
    pid, = application.pids("interface")
    Process.kill(:STOP, pid)
    Tools.wait_until(60, "the clock to be missed") { player["clock"] == false }
    expect(application.post("/api/player", "command" => "play")["error"]["message"]).to include("No clock from")
    Process.kill(:CONT, pid)
    Tools.wait_until(60, "the song to go on") { player.then { |status| status["clock"] && status["state"] == "playing" } }
  ensure
    Process.kill(:CONT, pid)
  end

  it "survives what strangers send to its clock and to the interface" do
    play
    random = Random.new(3)
    socket = UDPSocket.new
    [3, 4, 6, 8, 11, 13].each { |offset| 300.times { socket.send(random.bytes(random.rand(1..400)), 0, "127.0.0.1", application.port + offset) } }
    before = player["position"]
    Tools.wait_until(60, "the song to go on") { player.then { |status| status["state"] == "playing" && status["position"] > before + 48_000 } }
    expect(application.get("/api/health")["parts"]).to all(include("state" => "running"))
  end

  def ask_player(method)
    UNIXSocket.open(File.join(application.home, "player.sock")) do |socket|
      socket.puts(JSON.generate({ jsonrpc: "2.0", id: 1, method: method, params: {} }))
      JSON.parse(socket.gets)["result"]
    end
  end
end
