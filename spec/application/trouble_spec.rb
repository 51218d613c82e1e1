# frozen_string_literal: true

# Each of these does harm to an application of its own.
RSpec.describe "The application in trouble", :own_application do
  let(:application) { RunningApplication.new.start }

  after do
    application.stop
    application.remove
  end

  def frames = RunningRecorder.new(application.home).call("status")&.dig("capture", "frames").to_i
  def captured_on(seconds) = frames.then { |from| Tools.wait_until(60, "more sound") { frames > from + (seconds * 48_000) } }

  it "keeps what a killed recorder had captured, and says so" do
    id = application.capture("name" => "Cut short")
    captured_on(3)
    last = frames
    Process.kill(:KILL, application.pids("recorder").first)
    take = application.take(id)
    expect(take).to include("state" => "recovered", "note" => /recorder ended while capturing/)
    expect(take["frames"]).to be > last - 48_000
    expect(Tools.run("sndfile-info", take["tracks"][0]["path"])).to match(/Frames\s*: #{take['frames']}/)
    state = Tools.wait_until(60, "the recorder") { application.get("/api/state")["recorder"].then { |one| one if one["up"] } }
    expect(state["recovered"]).to match([include("number" => 1, "note" => /recovered/)])
    expect(application.log).to include("The recorder ended and was restarted")
  end

  it "goes on capturing while PostgreSQL is away, and shows the take afterwards" do
    id = application.capture("name" => "No database")
    postgres = application.pids("postgres").min
    Process.kill(:KILL, postgres)
    expect(Tools.wait_until(60, "the loss") { application.get("/api/health").then { |one| one unless one["database"] } }).to include("recorder" => true)
    expect(application.get("/api/show")).to include("version", "channels") # as it was seen last
    expect(application.post("/api/edits", settings: { "channel/1/name" => "Lost" })["error"]).to include("where" => "database")
    captured_on(1)
    application.post("/api/capture/stop")
    take = application.take(id)
    expect(take).to include("state" => "complete", "gaps" => [])
    Tools.wait_until(60, "the words") { application.log.include?("PostgreSQL ended and was restarted.") }
  end

  it "ends whole on TERM, keeps everything, and finds it again" do
    application.post("/api/edits", settings: { "channel/1/name" => "Great tuba" })
    id = application.capture("name" => "Last words")
    captured_on(1)
    expect(application.stop).to eq(0)
    expect(%w[desk recorder web postgres].flat_map { |part| application.pids(part) }).to eq([])
    application.start
    expect(application.get("/api/show")["channels"][0]["name"]).to eq("Great tuba")
    expect(application.take(id)).to include("state" => "ended early", "note" => "The recorder was stopped.")
    expect(application.get("/api/state")["desk"]["apart"]).to eq(0)
  end

  it "leaves no process when the supervisor itself is killed" do
    supervisor = application.instance_variable_get(:@pid)
    Process.kill(:KILL, supervisor)
    Process.wait(supervisor)
    Tools.wait_until(60, "all to end") { %w[desk recorder web].all? { |part| application.pids(part).empty? } }
    application.start # takes over the database that was left
    expect(application.get("/api/health")["ok"]).to be(true)
  end

  it "says in one sentence that a port or a home is in use" do
    start = ->(*arguments) { Open3.capture3(RbConfig.ruby, File.join(Loomshuttle::ROOT, "processes", "demo.rb"), *arguments) }
    _, err, status = start.call("--port", application.port.to_s, "--home", File.join(application.home, "other"))
    expect([err.lines.size, err, status.exitstatus]).to match([1, /TCP port #{application.port} for the interface is in use/, 1])
    _, err, status = start.call("--port", (application.port + 400).to_s, "--home", application.home)
    expect([err.lines.size, err, status.exitstatus]).to match([1, /runs already with the home/, 1])
    _, err, status = start.call("--nonsense")
    expect([err.lines.size, err, status.exitstatus]).to match([1, /knows --port N, --home DIR and --beside N/, 1])
  end

  it "says so over JSON-RPC when a request is no good, and works on" do
    recorder = RunningRecorder.new(application.home)
    expect(recorder.raw("nonsense").dig("error", "code")).to eq(-32_700)
    expect(recorder.call("capture.start", frames: "many")).to include("code" => 1, "message" => /whole number/)
    expect(recorder.call("status")["clock"]).to be(true)
  end

  it "holds every sample while the interface is killed, and tells where the desk started again" do
    application.open_show(RunningApplication::CLEAN)
    id = application.capture("name" => "Trouble")
    captured_on(1)
    web = application.pids("web")
    Process.kill(:KILL, web.first)
    captured_on(2)
    Tools.wait_until(60, "the interface") { (application.pids("web") - web).any? && application.well? }
    expect(application.get("/api/state").dig("recorder", "capture")).to include("id" => id)
    before = frames
    restart_desk
    Tools.wait_until(60, "the break") { application.get("/api/state").dig("recorder", "capture", "warning") =~ /the desk restarted/ }
    captured_on(1)
    application.post("/api/capture/stop")
    take = application.take(id)
    expect(take).to include("state" => "complete", "note" => /Gap of .* the desk restarted/)
    expect(take["gaps"].select { |gap| gap["at"] < before - 2400 }).to eq([])
    expect(Tools.run("sndfile-info", take["tracks"][0]["path"])).to match(/Frames\s*: #{take['frames']}\b/)
    Tools.wait_until(60, "the desk in step") { application.get("/api/state")["desk"].then { |desk| desk["up"] && desk["apart"]&.zero? } }
  end

  def restart_desk
    out, status = Open3.capture2e(File.join(Loomshuttle::ROOT, "bin", "desk"), "--port", application.port.to_s, "restart")
    raise out unless status.success?
  end
end
