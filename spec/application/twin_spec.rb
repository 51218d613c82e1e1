# frozen_string_literal: true

# Two computers at one playback interface, on the real processes: whatever befalls the first one's player in the middle of a song, the song goes on
# at the same sample.
RSpec.describe "A second computer", :own_application, type: :feature do
  def self.sound = @sound ||= SongFolder.noise(48_000 * 60, 6)

  def self.started(**more)
    RunningApplication.new(**more).tap do |one|
      sections = [SongHelp.section(1, "Verse", 1), SongHelp.section(2, "Chorus", 3)]
      SongFolder.write(File.join(one.home, "songs"), { "Strings" => sound }, id: "5a175a17-0000-4000-8000-000000000001", click: { "on" => false }, sections: sections)
      one.start.open_show(RunningApplication::CLEAN)
      # On the left alone it is as it is.
      one.post("/api/edits", "settings" => { "role/1/outputs" => [1], "send/34/source" => "desk/ch/34", "send/34/tap" => "channel-in", "track/34/inputs" => [34],
                                             "track/34/armed" => true })
    end
  end

  let(:first) { @first }
  let(:second) { @second }

  before(:context) do
    @first = self.class.started
    @second = self.class.started(arguments: ["--beside", @first.port.to_s])
  end

  after(:context) { [@second, @first].compact.each { |one| one.stop && one.remove } }

  before do
    Tools.wait_until(60, "both players") { [first, second].all? { |one| player(one)&.values_at("clock", "code")&.all? } }
    second.post("/api/player", "command" => "follow", "to" => { "host" => "127.0.0.1", "port" => first.port + 15, "code" => player(first)["code"] })
    Tools.wait_until(60, -> { player(second)["follows"] }) { player(second)["follows"]&.then { |state| state["connected"] && state["differs"].empty? } }
    Loomshuttle::StandIns::Desk::Hand.new(first.port + 2).run("changeover", "back")
    Tools.wait_until(60, "the desk in step") { first.get("/api/state")["desk"]["apart"]&.zero? }
    play
  end

  def player(application) = application.get("/api/player")["player"]

  def play
    [first, second].each { |one| one.post("/api/player", "command" => "stop") }
    Tools.wait_until(60, "silence") { [first, second].none? { |one| %w[playing stopping].include?(player(one)["state"]) } }
    first.post("/api/player", "command" => "load", "item" => 1)
    first.post("/api/player", "command" => "play", "sample" => 0)
    Tools.wait_until(60, -> { player(second) }) { player(second).then { |status| status["state"] == "playing" && status["follows"]&.fetch("apart")&.zero? } }
  end

  # What the desk's channel was given while something happened.
  def captured
    id = first.capture("name" => "Through it")
    Tools.wait_until(60, "some of it") { player(second)["position"] > 48_000 * 4 }
    yield
    Tools.wait_until(60, "the rest") { player(second)["position"] > 48_000 * 10 }
    first.post("/api/capture/stop")
    SongFolder.held_against(first.take(id), 34, self.class.sound)
  end

  it "goes on with the song at the same sample when the first one's player is killed" do
    share, off = captured { first.pids("player").each { |pid| Process.kill(:KILL, pid) } }
    expect(off).to eq(0)
    expect(share).to be > 0.8
  end

  it "goes on with it when the first one's player stands still, and stays there until somebody changes back" do
    pid, = first.pids("player")
    share, off = captured { Process.kill(:STOP, pid) }
    Process.kill(:CONT, pid)
    expect(off).to eq(0)
    expect(share).to be > 0.8
    expect(player(second)["state"]).to eq("playing")
  ensure
    Process.kill(:CONT, pid)
  end

  it "shows on its screen that the song goes on when the first one dies in the middle of a chorus" do
    visit("#{second.url}/#/stage/song")
    expect(page).to have_css("h1", text: "Tide")
    Tools.wait_until(60, "the chorus") { player(second)["position"] > 96_000 * 3 }
    first.pids("player").each { |pid| Process.kill(:KILL, pid) }
    Tools.wait_until(60, "the end of the line") { player(second)["follows"]["connected"] == false }
    bar = -> { find("[aria-label='bar and beat']").text.to_i }
    died_in = bar.call
    Tools.wait_until(60, -> { bar.call }) { bar.call > died_in }
    expect(page).to have_text("Chorus")
    expect(player(second)["state"]).to eq("playing")
  end

  it "goes on while the line between the two is cut, and follows again once it is mended" do
    link = CuttableLink.new(first.port + 15)
    second.post("/api/player", "command" => "follow", "to" => { "host" => "127.0.0.1", "port" => link.port, "code" => player(first)["code"] })
    Tools.wait_until(60, -> { player(second)["follows"] }) { player(second)["follows"]&.fetch("apart")&.zero? }
    share, off = captured do
      link.cut
      Tools.wait_until(60, "the cut") { player(second)["follows"]["connected"] == false }
    end
    expect([off, share]).to match([0, be > 0.8])
    expect(player(second)["state"]).to eq("playing")
    link.mend
    Tools.wait_until(60, -> { player(second)["follows"] }) { player(second)["follows"].values_at("connected", "apart") == [true, 0] }
  ensure
    link&.close
  end
end
