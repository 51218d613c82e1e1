# frozen_string_literal: true

require "capybara/rspec"

# The whole story in the real interface, on the real processes: a new user sees the patch, captures ten seconds, sends
# them back into the same channels, sees the desk's meters move as they did live, and puts the desk back.
RSpec.describe "The interface", type: :feature do
  include_context "with a browser"

  def desk_peaks(seconds)
    frames = []
    socket = TCPSocket.new("127.0.0.1", application.port)
    socket.write("GET /api/live HTTP/1.1\r\nHost: 127.0.0.1:#{application.port}\r\n\r\n")
    text = +""
    until frames.size >= seconds * 20
      text << socket.readpartial(65_536)
      while (line = text.slice!(/\A.*?\n\n/m))
        frames << JSON.parse(line[/^data: (.*)$/, 1])["peak"] if line.start_with?("event: desk")
      end
    end
    frames.transpose.map(&:max)
  ensure
    socket&.close
  end

  it "leads from the patch to a take, into the desk and back" do
    open_place("patch")
    expect(page).to have_css("[data-port='desk/ch/4']", text: "Fiddle")
    expect(page).to have_css("path.thread:not(.loose)", count: 68)
    find("[data-port='desk/ch/4']").click
    within("aside[aria-label=Trace]") { ["Fiddle", "Card send 4", "Comes back on its own channel."].each { |text| expect(page).to have_text(text) } }

    open_place("capture")
    fill_in("Name of the take", with: "First set")
    nil
    click_button("Capture")
    expect(page).to have_text(/Capturing take \d+ First set/)
    live = desk_peaks(8)
    expect(page).to have_css("[role=timer]", text: /00:1\d/, wait: 20)
    click_button("Stop")
    within("aside[aria-label=Takes]") { ["First set", "16 tracks"].each { |text| expect(page).to have_text(text) } }
    take = application.get("/api/takes").first
    expect(take).to include("state" => "complete", "gaps" => [])
    expect(take["frames"]).to be > 10 * 48_000

    open_place("soundcheck")
    click_button("Flip all to take")
    expect(page).to have_link(text: "16 channels on take")
    click_button("Play")
    back = desk_peaks(8)
    expect(back.first(16).zip(live.first(16)).map { |now, then_| (now - then_).abs }.sort[-3]).to be < 2 # the drum and one more may differ where they began
    expect(application.get("/api/state")["positions"]).to eq("stage" => 1, "take" => 16)
    click_button("Return to stage")
    expect(page).to have_no_link(text: "on take")
    Tools.wait_until(5, "the desk in step") { application.get("/api/state")["desk"] == { "up" => true, "apart" => 0 } }
    expect(application.get("/api/show")["channels"].map { |one| one["position"] }.uniq).to eq(["stage"])
  end

  it "patches by keyboard alone, with undo and redo" do
    open_place("patch")
    find("[data-port='desk/ch/1']").click
    keys(:arrow_down, :arrow_down, :arrow_right, :enter)
    expect(page).to have_css("[role=dialog] input[role=combobox][value='Channel 3 Cornet 2']")
    keys(:escape, :escape)
    expect(page).to have_no_css("[role=dialog]")
    keys("5") # typing opens the cell with what was typed
    expect(page).to have_css("[role=option]", text: "Channel 15 Spare")
    expect(find("[role=dialog] input[role=combobox]", match: :first).value).to eq("5")
    keys(:enter)
    expect(page).to have_no_css("[role=dialog]")
    Tools.wait_until(5, "the edit") { application.get("/api/show")["sends"][2]["source"] == "desk/ch/5" }
    expect(page).to have_css(".thread", minimum: 1)
    keys([:control, "z"])
    Tools.wait_until(5, "undo") { application.get("/api/show")["sends"][2]["source"] == "desk/ch/3" }
    keys([:control, :shift, "z"])
    Tools.wait_until(5, "redo") { application.get("/api/show")["sends"][2]["source"] == "desk/ch/5" }
    expect(page).to have_button("Redo", disabled: true)
    keys([:control, "z"])
    Tools.wait_until(5, "undo") { application.get("/api/show")["sends"][2]["source"] == "desk/ch/3" }
  end

  it "runs straight from the chosen range" do
    open_place("patch")
    find("[data-port='track/1/in']").click
    keys(%i[shift arrow_down], %i[shift arrow_down])
    click_button("Run straight…")
    expect(find_field("How many").value).to eq("3")
    fill_in("Starting with card send", with: "4")
    within("[role=dialog]") { click_button("Run straight") }
    Tools.wait_until(5, "the run") { application.get("/api/show")["tracks"].first(3).map { |track| track["inputs"] } == [[4], [5], [6]] }
    click_button("Undo")
    Tools.wait_until(5, "undo") { application.get("/api/show")["tracks"].first(3).map { |track| track["inputs"] } == [[1], [2], [3]] }
  end

  it "says why an edit is refused, and keeps what was" do
    open_place("patch")
    find("[data-port='desk/ch/1']").double_click
    fill_in("Preamp gain, dB", with: "99")
    find_field("Preamp gain, dB").send_keys(:enter)
    expect(page).to have_css("[role=alert]", text: "the preamp goes from 0 to 60 dB, not 99")
    expect(find_field("Preamp gain, dB").value).to eq("18")
  end

  it "mends a finding from the band" do
    application.post("/api/edits", settings: { "send/5/tap" => "post-fader" })
    open_place("capture")
    find("header button", text: /finding/).click
    expect(page).to have_text("Accordion is taken at post-fader")
    click_button("Take Accordion at the preamp")
    expect(page).to have_no_text("Accordion is taken at post-fader")
    expect(application.get("/api/show")["sends"][4]["tap"]).to eq("preamp")
  end

  it "shows two browsers each other's edits, and the same levels, within half a second" do
    open_place("patch")
    in_second_browser do
      open_place("patch")
      find("[data-port='desk/ch/9']").double_click
      fill_in("Name", with: "Low whistles")
      find_field("Name").send_keys(:enter)
      expect(page).to have_css("[data-port='desk/ch/9']", text: "Low whistles")
    end
    expect(page).to have_css("[data-port='desk/ch/9']", text: "Low whistles", wait: 0.5)
    application.post("/api/undo")
    levels = [levels_seen, in_second_browser { levels_seen }]
    expect(levels.map(&:size)).to eq([20, 20])
  end

  # Figures of the live feed as the page hears them.
  def levels_seen
    open_place("capture")
    page.evaluate_async_script(<<~JS)
      const done = arguments[0]; const source = new EventSource('/api/live');
      source.addEventListener('lanes', (event) => { source.close(); done(JSON.parse(event.data).peak); });
    JS
  end

  it "says that the connection is lost, and recovers" do
    own = RunningApplication.new.start
    visit("#{own.url}/#/capture")
    expect(page).to have_text("Ready, 16 tracks armed")
    Process.kill(:STOP, *own.pids("web"))
    expect(page).to have_css("[role=alert]", text: "No connection to the application", wait: 10)
    Process.kill(:CONT, *own.pids("web"))
    expect(page).to have_no_css("[role=alert]", text: "No connection", wait: 15)
    Process.kill(:KILL, *own.pids("web"))
    expect(page).to have_css("[role=alert]", text: "No connection to the application", wait: 10)
    expect(page).to have_no_css("[role=alert]", text: "No connection", wait: 20)
    expect(page).to have_text("Ready, 16 tracks armed")
  ensure
    own&.stop
    own&.remove
  end

  it "wears both themes, and loads nothing from elsewhere" do
    open_place("patch")
    find("[aria-label='You and the theme']").click
    click_button("Blackout")
    expect(page).to have_css("html[data-theme=blackout]")
    click_button("Daylight")
    names = page.evaluate_script("performance.getEntriesByType('resource').map((entry) => new URL(entry.name).host)")
    expect(names.uniq).to eq(["127.0.0.1:#{application.port}"])
    errors = page.driver.browser.logs.get(:browser).map(&:message).grep(/Content Security|Uncaught|SEVERE/)
    expect(errors).to eq([])
  end
end
