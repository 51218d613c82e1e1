# frozen_string_literal: true

# Two computers at one playback interface, on the real processes: the first one's player is killed in the middle of a song, and the song goes on
# at the same sample.
RSpec.describe "A second computer" do
  let(:sound) { SongFolder.noise(48_000 * 60, 6) }

  def started(**more)
    RunningApplication.new(**more).tap do |one|
      SongFolder.write(File.join(one.home, "songs"), { "Strings" => sound }, id: "5a175a17-0000-4000-8000-000000000001", click: { "on" => false })
      one.start.open_show(RunningApplication::CLEAN)
      # On the left alone it is as it is.
      one.post("/api/edits", "settings" => { "role/1/outputs" => [1], "send/34/source" => "desk/ch/34", "send/34/tap" => "channel-in", "track/34/inputs" => [34],
                                             "track/34/armed" => true })
    end
  end

  def player(application) = application.get("/api/player")["player"]

  def paired(first, second)
    Tools.wait_until(60, "both players") { [first, second].all? { |one| player(one)&.values_at("clock", "code")&.all? } }
    second.post("/api/player", "command" => "follow", "to" => { "host" => "127.0.0.1", "port" => first.port + 15, "code" => player(first)["code"] })
    Tools.wait_until(60, -> { player(second)["follows"] }) { player(second)["follows"].then { |state| state["connected"] && state["differs"].empty? } }
  end

  it "goes on with the song at the same sample when the first one's player is killed, and holds" do
    first = started
    second = started(arguments: ["--beside", first.port.to_s])
    paired(first, second)
    Tools.wait_until(60, "the desk in step") { first.get("/api/state")["desk"]["apart"]&.zero? }
    first.post("/api/player", "command" => "load", "item" => 1)
    first.post("/api/player", "command" => "play")
    Tools.wait_until(60, -> { player(second) }) { player(second).then { |status| status["state"] == "playing" && status["follows"]["apart"]&.zero? } }
    id = first.capture("name" => "Through it")
    Tools.wait_until(60, "some of it") { player(first)["position"] > 48_000 * 5 }
    first.pids("player").each { |pid| Process.kill(:KILL, pid) }
    Tools.wait_until(60, "the rest") { player(second)["position"] > 48_000 * 12 }
    first.post("/api/capture/stop")
    share, off = SongFolder.held_against(first.take(id), 34, sound)
    expect(off).to eq(0)
    expect(share).to be > 0.8
    expect(player(second)["state"]).to eq("playing")
  ensure
    [second, first].compact.each { |one| one.stop && one.remove }
  end
end
