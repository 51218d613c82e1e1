# frozen_string_literal: true

# Two computers at one playback interface, on the real processes: whatever befalls the first one's player in the middle of a song, the song goes on
# at the same sample. One moment of each kind here; any number by hand, each somewhere else in the song, with what they came to:
# MOMENTS=50 MOMENTS_SEED=7 bundle exec rspec spec/application/twin_spec.rb
RSpec.describe "A second computer", :own_application, type: :feature do
  def self.sound = @sound ||= SongFolder.noise(48_000 * 60, 6)

  def self.started(**more)
    RunningApplication.new(**more).tap do |one|
      sections = [SongHelp.section(1, "Verse", 1), SongHelp.section(2, "Chorus", 3)]
      SongFolder.write(File.join(one.home, "songs"), { "Strings" => sound }, id: "5a175a17-0000-4000-8000-000000000001", click: { "on" => false }, sections: sections)
      one.start.open_show(RunningApplication::CLEAN)
      # On the left alone it is as it is; and that alone is captured.
      armed = one.get("/api/show")["tracks"].filter_map { |track| ["track/#{track['number']}/armed", false] if track["armed"] }.to_h
      one.post("/api/edits", "settings" => armed.merge("role/1/outputs" => [1], "send/34/source" => "desk/ch/34", "send/34/tap" => "channel-in",
                                                       "track/34/inputs" => [34], "track/34/armed" => true))
    end
  end

  # Both, the first one first.
  def self.pair = @pair ||= []
  def first = self.class.pair[0]
  def second = self.class.pair[1]

  def self.start_pair
    pair << started
    pair << started(arguments: ["--beside", pair[0].port.to_s])
  end

  def self.end_pair
    pair.reverse_each { |one| one.stop && one.remove }
    pair.clear
  end

  before(:context) { self.class.start_pair }
  after(:context) { self.class.end_pair }

  before { make_ready }

  # The first one leads, the second follows through the line, both play from the beginning.
  def make_ready(port = first.port + 15)
    Tools.wait_until(60, "both players") { [first, second].all? { |one| player(one)&.values_at("clock", "code")&.all? } }
    second.post("/api/player", "command" => "follow", "to" => { "host" => "127.0.0.1", "port" => port, "code" => player(first)["code"] })
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
    Tools.wait_until(60, -> { self.class.pair.map { player(_1) } }) { player(second).then { |status| status["state"] == "playing" && status["follows"]&.fetch("apart")&.zero? } }
  end

  def answers?
    first.get("/api/takes").is_a?(Array)
  rescue SystemCallError, EOFError, JSON::ParserError
    false
  end

  # What the desk's channel was given while something happened at a moment of the song (samples).
  # @return [Array] as SongFolder.held_against, and what the second player does then
  def captured(at)
    id = first.capture("name" => "Through it")
    Tools.wait_until(60, -> { "the moment: #{player(second)}" }) { player(second)["position"] >= at }
    yield
    Tools.wait_until(60, -> { "the rest: #{player(second)}" }) { player(second)["position"] > at + (48_000 * 3) }
    Tools.wait_until(60, "the first one's database and web") { answers? }
    state = player(second)["state"]
    first.post("/api/capture/stop")
    take = first.take(id)
    [*SongFolder.held_against(take, 34, self.class.sound), state].tap { FileUtils.rm_rf(take["folder"]) }
  end

  # On a busy machine much of a take may be silent, but none of it is wrong; a fault that swallows sound does so each time.
  # @param port [Integer, :own] of the line that the second one follows by
  # @yield what befalls the first one; gives what mends it, if anything does
  def hold_through(what, port: :own, &befall)
    random = Random.new(Integer(ENV.fetch("MOMENTS_SEED", "3")))
    moments = Integer(ENV.fetch("MOMENTS", "1"))
    runs = 0
    come_to = Array.new(moments) do
      tries = Array.new(3) do
        moment = hold_once(random.rand(96_000..240_000), runs, port, &befall)
        runs += 1
        break [moment] if moment[1] > 0.8

        moment
      end
      expect(tries.map { |moment| moment.drop(2) }).to all(eq([0, "playing"]))
      tries.max_by { |moment| moment[1] }
    end
    warn "#{what}, #{moments} moments: least of the song that sounded #{come_to.map { |moment| moment[1] }.min.round(4)}" if moments > 1
    expect(come_to).to all(match([Integer, be > 0.8, 0, "playing"]))
  end

  def hold_once(at, runs, port)
    # What is killed again and again is given up, and waits: that is another thing.
    self.class.end_pair.then { self.class.start_pair } if port == :own && runs.positive? && (runs % 3).zero?
    make_ready(*(port unless port == :own)) if runs.positive?
    mended = nil
    [at, *captured(at) { mended = yield }].tap { mended.call if mended.respond_to?(:call) }
  end

  it "goes on with the song at the same sample when the first one's player is killed" do
    hold_through("player killed") { first.pids("player").each { |pid| Process.kill(:KILL, pid) } }
  end

  it "goes on with it when the first one's player stands still, and stays there until somebody changes back" do
    hold_through("player frozen") do
      pids = first.pids("player").each { |pid| Process.kill(:STOP, pid) }
      -> { pids.each { |pid| Process.kill(:CONT, pid) } }
    end
  ensure
    first.pids("player").each { |pid| Process.kill(:CONT, pid) }
  end

  # What captures here, and the stage, belong to no computer that died.
  it "goes on with it when all of the first one's other processes are killed at once" do
    hold_through("machine killed") { %w[player web porter postgres].flat_map { |part| first.pids(part) }.each { |pid| Process.kill(:KILL, pid) } }
  end

  it "goes on while the line between the two is cut, and follows again once it is mended" do
    link = CuttableLink.new(first.port + 15)
    make_ready(link.port)
    hold_through("line cut", port: link.port) do
      link.cut
      Tools.wait_until(60, "the cut") { player(second)["follows"]["connected"] == false }
      -> { link.mend }
    end
    Tools.wait_until(60, -> { player(second)["follows"] }) { player(second)["follows"].values_at("connected", "apart") == [true, 0] }
  ensure
    link&.close
  end

  it "shows on its screen that the song goes on when the first one dies in the middle of a chorus" do
    visit("#{second.url}/#/stage/song")
    expect(page).to have_css("h1", text: "Tide")
    Tools.wait_until(60, "the chorus") { player(second)["position"] > 96_000 * 3 }
    killed = first.pids("player").each { |pid| Process.kill(:KILL, pid) }
    # Not the cut line: a new player may be back before the next status shows the cut.
    Tools.wait_until(60, "its end") { !first.pids("player").intersect?(killed) }
    bar = -> { find("[aria-label='Bar and beat']").text.to_i }
    died_in = bar.call
    Tools.wait_until(60, -> { bar.call }) { bar.call > died_in }
    expect(page).to have_text("Chorus")
    expect(player(second)["state"]).to eq("playing")
  end
end
