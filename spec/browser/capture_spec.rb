# frozen_string_literal: true

# Capturing, guarded, with rests and markers, seen from two browsers.
RSpec.describe "The Capture place", type: :feature do
  include_context "with a browser"

  after { application.post("/api/capture/stop") }

  def capture = application.get("/api/state")["recorder"]["capture"]
  def hold(button, seconds = 1.3) = page.driver.browser.action.move_to(button.native).click_and_hold.pause(duration: seconds).release.perform

  it "keeps a take running through everything but a long press, with rests and markers" do
    open_place("capture")
    fill_in("Take name", with: "Guarded")
    click_button("Capture")
    expect(page).to have_button("Hold to stop")
    find_button("Hold to stop").click
    expect(page).to have_css("[role=alert]", text: "Hold Stop for a second")
    keys("x", :enter, "q", :escape)
    keys("m")
    expect(page).to have_css("[role=alert]", text: "Marker 1 at 00:0")
    keys("s")
    expect(page).to have_button(text: "End section")
    click_button("Pause Tuba")
    expect(page).to have_button("Resume Tuba")

    in_second_browser do
      open_place("patch")
      cell("desk/ch/4").click
      keys(:arrow_right, :delete)
      expect(page).to have_css("[role=alert]", text: /Blocked during take \d+: changing "Card send 4, source" would damage it/)
      open_place("capture")
      expect(page).to have_button("Resume Tuba")
      click_button("Resume Tuba")
    end

    expect(page).to have_button("Pause Tuba")
    keys("s")
    expect(page).to have_button(text: "Begin section")
    id, number = capture.values_at("id", "number")
    page.driver.browser.navigate.refresh
    hold(find_button("Hold to stop"))
    expect(page).to have_css(".capture-take-line", text: "#{number} Guarded")
    take = application.take(id)
    expect(take).to include("state" => "complete", "gaps" => [])
    expect(take["markers"].map { |one| [one["name"], one["frames"].positive?] }).to contain_exactly(["Marker 1", false], ["Section 2", true])
    expect(take["tracks"].first["rests"].size).to eq(1)
    expect(show["sends"][3]["source"]).to eq("desk/ch/4")
  end

  it "begins in the past, lets the guard be opened on purpose, and is ended by a held key" do
    open_place("capture")
    Tools.wait_until(60, "ten seconds of look-back") { application.get("/api/state")["recorder"]["look_back"]["seconds"] > 10 }
    pick("Start", "10 s ago")
    click_button("Capture")
    expect(page).to have_button("Hold to stop")
    Tools.wait_until(60, "the past to be written") { capture && capture["frames"] > 9 * 48_000 }
    hold(find_button("Edits locked"))
    expect(page).to have_button("Edits unlocked")
    application.post("/api/edits", settings: { "send/4/tap" => "pre-eq" })
    expect(show["sends"][3]["tap"]).to eq("pre-eq")
    number = capture["number"]
    page.execute_script("const hold = [...document.querySelectorAll('button')].find((one) => one.textContent === 'Hold to stop'); hold.focus();")
    page.driver.browser.action.key_down(:space).pause(duration: 1.3).key_up(:space).perform
    expect(page).to have_css(".capture-take-line", text: /\A#{number} /)
  end

  it "names, annotates and marks a take, and throws it away and takes it back" do
    take = application.take(application.capture("name" => "Words", "frames" => 48_000))
    application.post("/api/takes/#{take['number']}", "markers" => [{ "at" => 4800, "name" => "Count-in" }])
    open_place("capture")
    find(".capture-take-line", text: "Words").click
    fill_in("Notes", with: "Fiddle came in late")
    fill_in("Name of Count-in", with: "Reel")
    fill_in("Name", with: "First set", exact: true)
    find(".MuiDialogTitle-root").click
    Tools.wait_until(60, "the words") { application.get("/api/takes/#{take['number']}").values_at("name", "notes") == ["First set", "Fiddle came in late"] }
    expect(application.get("/api/takes/#{take['number']}")["markers"].map { |one| one["name"] }).to eq(["Reel"])
    click_button("Listen here")
    length = <<~JS
      const done = arguments[0], audio = document.querySelector('audio');
      const look = () => (audio.duration > 0.9 ? done(audio.duration) : setTimeout(look, 100));
      look();
    JS
    expect(page.evaluate_async_script(length)).to be_within(0.1).of(1)
    click_button("Delete take…")
    click_button("Move to bin")
    expect(page).to have_css("[aria-label=Bin]", text: "First set")
    within("[aria-label=Bin]") { click_button("Restore", match: :first) }
    expect(page).to have_css(".capture-take-line", text: "First set")
  end

  it "shows what plays, and stops it, on every place; on Soundcheck its player stays in view" do
    take = application.take(application.capture("name" => "Playing", "frames" => 96_000))
    application.post("/api/take-playback", "take" => take["number"], "loop" => true)
    open_place("patch")
    expect(page).to have_css("[aria-label=Playing]", text: "Playing take #{take['number']} Playing")
    expect(page).to have_css("[aria-label='Time played']", text: /00:0[01]/)
    visit("#{application.url}/#/soundcheck")
    expect(page).to have_css("section[aria-label=Take] button", text: "Stop")
    expect(page).to have_no_css("[aria-label=Playing]")
    below = "document.querySelector('section[aria-label=Take]').getBoundingClientRect().bottom - window.innerHeight"
    expect(page.evaluate_script(below)).to be <= 0
    visit("#{application.url}/#/rig")
    within("[aria-label=Playing]") { click_button("Stop") }
    expect(page).to have_no_css("[aria-label=Playing]")
    expect(application.get("/api/state")["recorder"]["take_playback"]).to be_nil
  ensure
    application.post("/api/take-playback/stop")
  end

  it "marks a place and a part of a take afterwards, and listens from there" do
    take = application.take(application.capture("name" => "Afterwards", "frames" => 2 * 48_000))
    open_place("capture")
    find(".capture-take-line", text: "Afterwards").click
    expect(page).to have_button("Add marker", disabled: true)
    picture = find("canvas.capture-waveform").native
    page.driver.browser.action.move_to(picture).click.perform
    click_button("Add marker")
    expect(page).to have_field("Name of Marker 1")
    page.driver.browser.action.move_to(picture, -picture.size.width / 4, 0).click_and_hold.move_by(picture.size.width / 2, 0).release.perform
    keys("s")
    expect(page).to have_field("Name of Section 2")
    kept = application.get("/api/takes/#{take['number']}")["markers"]
    expect(kept).to match([{ "at" => be_within(200).of(24_000), "frames" => be_within(400).of(48_000), "name" => "Section 2" },
                           { "at" => be_within(200).of(48_000), "frames" => 0, "name" => "Marker 1" }])
    click_button("Listen from 00:00.5")
    expect(find("audio")["src"]).to match(/from=2[34]\d{3}$/)
  end

  it "arms a range, and those with signal, and points at who is silent" do
    open_place("capture")
    click_button("Arm none")
    settle("none") { show["tracks"].none? { |track| track["armed"] } }
    find_button("Arm Tuba").click
    settle("one") { show["tracks"].one? { |track| track["armed"] } }
    find_button("Arm Fiddle").click(:shift)
    settle("a range") { show["tracks"].select { |track| track["armed"] }.map { |track| track["number"] } == [1, 2, 3, 4] }
    click_button("Arm all")
    # What another test sent there stays a signal of the last minute for a minute.
    expect(page).to have_css(".capture-silent-hint", text: "Spare", wait: 75)
    click_button("Arm tracks with signal")
    settle("those with signal") { !setting("track", 15)["armed"] && setting("track", 4)["armed"] }
  end
end
