# frozen_string_literal: true

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
    expect(page).to have_css("path.sheet-thread:not(.sheet-loose)", minimum: 60)
    cell("desk/ch/4").click
    within("aside[aria-label=Trace]") { ["Fiddle", "Card send 4", "Returns on its own channel."].each { |text| expect(page).to have_text(text) } }

    open_place("capture")
    fill_in("Take name", with: "First set")
    click_button("Capture")
    expect(page).to have_text(/Capturing take \d+ First set/)
    live = desk_peaks(9) # the band's tune comes around every eight seconds
    expect(page).to have_css("[role=timer]", text: /00:1\d/)
    page.driver.browser.action.move_to(find_button("Hold to stop").native).click_and_hold.pause(duration: 1.3).release.perform
    within("aside[aria-label=Takes]") { ["First set", "30 tracks"].each { |text| expect(page).to have_text(text) } }
    take = application.take(application.get("/api/takes").first["id"])
    expect(take).to include("state" => "complete", "gaps" => [])
    expect(take["frames"]).to be > 10 * 48_000

    open_place("soundcheck")
    click_button("Flip all to take")
    expect(page).to have_link(text: "32 channels on take")
    click_button("Play")
    back = desk_peaks(11) # once around, after the moment until it begins
    expect(back.first(30).zip(live.first(30)).map { |now, then_| (now - then_).abs }.max).to be < 2
    expect(application.get("/api/state")["positions"]).to eq("stage" => 5, "take" => 32, "channels" => (1..32).to_a)
    click_button("Return to stage")
    expect(page).to have_no_link(text: "on take")
    Tools.wait_until(60, "the desk in step") { application.get("/api/state")["desk"].values_at("up", "apart") == [true, 0] }
    expect(show["channels"].map { |one| one["position"] }.uniq.compact).to eq(["stage"])
  end

  it "says that the connection is lost, and recovers" do
    visit("#{application.url}/#/capture")
    expect(page).to have_text("Ready, 30 tracks armed")
    Process.kill(:STOP, *application.pids("web"))
    expect(page).to have_css("[role=alert]", text: "Connection lost")
    Process.kill(:CONT, *application.pids("web"))
    expect(page).to have_no_css("[role=alert]", text: "Connection lost")
    Process.kill(:KILL, *application.pids("web"))
    expect(page).to have_css("[role=alert]", text: "Connection lost")
    expect(page).to have_no_css("[role=alert]", text: "Connection lost")
    expect(page).to have_text("Ready, 30 tracks armed")
  ensure
    Process.kill(:CONT, *application.pids("web"))
    Tools.wait_until(60, "the interface") { application.well? }
  end

  it "wears both themes, and loads nothing from elsewhere" do
    open_place("patch")
    find("[aria-label='You and the theme']").click
    click_button("Blackout")
    expect(page).to have_css("html[data-theme=dark]")
    click_button("Daylight")
    %w[rig capture soundcheck handover].each { |place| open_place(place) }
    names = page.evaluate_script("performance.getEntriesByType('resource').map((entry) => new URL(entry.name).host)")
    expect(names.uniq).to eq(["127.0.0.1:#{application.port}"])
  end
end
