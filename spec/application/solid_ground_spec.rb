# frozen_string_literal: true

# Parts that are killed, frozen and fed with damage, in the middle of a capture: each one's trouble stays its own.
RSpec.describe "The application on solid ground", :own_application do
  let(:application) { RunningApplication.new }

  after do
    thaw
    application.stop
    application.remove
  end

  def frames = RunningRecorder.new(application.home).call("status")&.dig("capture", "frames").to_i
  def captured_on(seconds) = frames.then { |from| Tools.wait_until(90, "more sound") { frames > from + (seconds * 48_000) } }
  def state = application.get("/api/state")

  def freeze_part(part)
    (@frozen ||= []).concat(application.pids(part).each { |pid| Process.kill(:STOP, pid) })
  end

  def thaw
    @frozen.to_a.each do |pid|
      Process.kill(:CONT, pid)
    rescue Errno::ESRCH
      next
    end
    @frozen = []
  end

  def timed
    from = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    [yield, Process.clock_gettime(Process::CLOCK_MONOTONIC) - from]
  end

  # Flips while every part is well. A deadline in seconds is late by what that takes, so that it holds on this machine as it is now.
  def flip(position) = @usual = timed { application.post("/api/flip", "to" => position) }.last
  def within(seconds) = be < seconds + (10 * @usual)

  def expect_whole(id)
    take = application.take(id)
    expect(take).to include("state" => "complete", "gaps" => [])
    expect(Tools.run("sndfile-info", take["tracks"][0]["path"])).to match(/Frames\s*: #{take['frames']}\b/)
    take
  end

  describe "when parts hang" do
    before { application.start.open_show(RunningApplication::CLEAN) }

    it "returns to the stage at the desk while the recorder is frozen, within three seconds, and tells the truth" do
      flip("take")
      expect(application.desk_fact("block/1/hears")).to eq("take")
      freeze_part("recorder")
      answers = Array.new(5) { Thread.new { timed { application.post("/api/flip", "to" => "stage") } } }.map(&:value)
      expect(answers.map(&:last).max).to within(3)
      expect(answers.map { |answer, _| answer["desk_problems"] }).to all(eq([]))
      expect((1..5).map { |block| application.desk_fact("block/#{block}/hears") }.uniq).to eq(["stage"])
      expect(timed { application.get("/api/show") }.last).to within(3)
      Tools.wait_until(60, "the words") { state["recorder"] == { "up" => false } }
      expect(timed { application.post("/api/take-playback/stop") }).to match([include("error" => include("where" => "recorder")), within(3)])
      thaw
      Tools.wait_until(60, "the recorder") { state["recorder"]["up"] }
    end

    it "says that the desk has not moved while the desk is frozen" do
      flip("take")
      freeze_part("desk")
      answer, seconds = timed { application.post("/api/flip", "to" => "stage") }
      expect(seconds).to within(3)
      expect(answer["desk_problems"]).not_to be_empty
      thaw
      Tools.wait_until(60, "the desk") { application.post("/api/flip", "to" => "stage")["desk_problems"] == [] }
      expect(application.desk_fact("block/1/hears")).to eq("stage")
    end

    it "catches up after the interface was paused, and lets no flip through during the pause" do
      id = application.capture("name" => "Paused")
      Tools.wait_until(60, "the capture") { state["recorder"]["capture"] }
      freeze_part("web")
      captured_on(7)
      thaw
      expect(application.post("/api/flip", "to" => "take")["error"]["where"]).to eq("guard")
      Tools.wait_until(60, "the capture") { state.dig("recorder", "capture", "id") == id }
      before = state.dig("recorder", "capture", "frames")
      Tools.wait_until(60, "more of it") { state.dig("recorder", "capture", "frames") > before }
      application.post("/api/capture/stop")
      expect_whole(id)
    end

    it "starts its interface while the database hangs, with the show as it was, and captures on" do
      application.post("/api/edits", settings: { "channel/1/name" => "Great tuba" })
      Tools.wait_until(60, "the kept show") { File.read(File.join(application.home, "open-show.json")).include?("Great tuba") }
      id = application.capture("name" => "No database")
      captured_on(1)
      flip("stage")
      freeze_part("postgres")
      web = application.pids("web")
      Process.kill(:KILL, web.first)
      health = Tools.wait_until(90, "the interface") { (application.pids("web") - web).any? && (application.get("/api/health") rescue nil) } # rubocop:disable Style/RescueModifier
      expect(health).to include("database" => false)
      Tools.wait_until(60, "the capture") { state.dig("recorder", "capture", "id") == id }
      expect(application.get("/api/show").dig("channels", 0, "name")).to eq("Great tuba")
      expect(application.get("/api/player")).to include("items", "player")
      expect(application.post("/api/edits", settings: { "channel/1/name" => "Tuba" })["error"]["where"]).to eq("database")
      answer, seconds = timed { application.post("/api/flip", "to" => "stage") }
      expect([answer["desk_problems"].join, seconds]).to match([/no reply from the database. The desk is back on stage/, within(12)])
      thaw
      Tools.wait_until(60, "the show") { application.get("/api/show").dig("channels", 0, "name") == "Great tuba" }
      application.post("/api/capture/stop")
      expect_whole(id)
    end
  end

  it "goes on when the desk is started again again and again" do
    application.start
    id = application.capture("name" => "Restless desk")
    desk = File.join(Loomshuttle::ROOT, "bin", "desk")
    6.times do |n|
      before = application.pids("desk")
      Open3.capture2e(desk, "--port", application.port.to_s, "restart")
      Tools.wait_until(60, "the desk") do
        application.pids("desk").then { |now| now.any? && now != before } && application.desk_fact("name")
      rescue Errno::ECONNREFUSED
        false
      end
      expect(application.log).not_to include("given up"), "after #{n + 1} restarts"
    end
    captured_on(1)
    application.post("/api/capture/stop")
    take = application.take(id)
    expect(take).to include("state" => "complete", "note" => /the desk restarted/)
  end

  # Each of these ended everything once, most of them again at the next start.
  it "starts with everything damaged that a part reads, puts it aside, says so, and works" do
    home = application.home
    jobs, takes = File.join(home, "jobs"), File.join(home, "takes")
    { "recorder.json" => "[]", "rig.json" => "{\"desk\":7}", "sound-device.json" => "{\"name\":\"file:'|id>#{home}/run'\"}", "desk.json" => "[1]", "open-show.json" => "{" }
      .each { |name, text| File.write(File.join(home, name), text) }
    { "cut" => "{\"id\":", "undated" => "{\"state\":\"waiting\",\"kind\":\"export\"}", "list" => "[]" }.each do |name, text|
      FileUtils.mkdir_p(File.join(jobs, name))
      File.write(File.join(jobs, name, "job.json"), text)
    end
    unfinished = Damage::TAKE.merge("state" => "capturing")
    { "0001 Good" => JSON.generate(unfinished), "0002 List" => "[]", "0003 Cut" => JSON.generate(unfinished)[0, 99] }.each do |name, text|
      FileUtils.mkdir_p(File.join(takes, name))
      File.write(File.join(takes, name, "take.json"), text)
      File.write(File.join(takes, name, "one.wav"), "") # as after a power cut
    end
    application.start
    Tools.wait_until(90, "all parts") { application.well? }
    health = application.get("/api/health")
    expect(health["aside"].map { |one| one["name"] }).to contain_exactly("recorder.json", "rig.json", "sound-device.json", "desk.json")
    expect(state["troubles"]).to include(/recorder.json was moved aside: recorder.json must be an object/)
    expect(File.exist?(File.join(home, "run"))).to be(false)
    listed = Tools.wait_until(60, "the takes") { application.get("/api/takes").then { |list| list if list.size == 3 } }
    expect(listed.to_h { |one| [one["number"], one["state"]] }).to eq(1 => "recovered", 2 => "unreadable", 3 => "unreadable")
    expect(application.get("/api/exports").map { |job| job["state"] }).to eq(["unreadable"] * 3)
    id = application.capture("name" => "All the same", "frames" => 48_000)
    expect(application.take(id)).to include("number" => 4, "state" => "complete")
    _, _, code = application.command("status")
    expect(code).to eq(0)
  end

  it "gives up a part alone that cannot be started, in words, while a take goes on" do
    application.start
    id = application.capture("name" => "Without the porter")
    jobs = File.join(application.home, "jobs")
    FileUtils.rm_rf(jobs)
    File.write(jobs, "no folder")
    Tools.wait_until(90, "it to be given up") do
      application.pids("porter").each { |pid| Process.kill(:KILL, pid) }
      state["troubles"].grep(/The porter keeps failing; retrying every \d+ s/).any?
    rescue Errno::ESRCH
      false
    end
    expect(application.get("/api/health")).to include("ok" => true, "parts" => include(include("name" => "porter", "state" => "given up")))
    expect(application.command("status").first).to include("The porter keeps failing")
    captured_on(1)
    application.post("/api/capture/stop")
    expect_whole(id)
  end
end
