# frozen_string_literal: true

# Playback in the real interface: a folder of badly named stems becomes a song that plays with its click only at the drummer; a vamp that is
# left; a new role that is found and given an output.
RSpec.describe "Playback", type: :feature do
  include_context "with a browser"

  # Long enough for anybody to press something.
  def stems
    folder = File.join(application.home, "ropewalk")
    FileUtils.mkdir_p(folder)
    { "03_RopeWalk-96bpm STRINGS L" => 220, "04_RopeWalk-96bpm STRINGS R" => 221, "ropewalk 96bpm frame_loop" => 110 }.each do |name, hertz|
      path = File.join(folder, "#{name}.wav")
      Tools.run("sox", "-D", "-n", "-r", 44_100, "-b", 16, "-c", 1, path, "synth", 60, "sine", hertz, "gain", "-12") unless File.exist?(path)
    end
    folder
  end

  def player = application.get("/api/player")

  def wishes = application.get("/api/outputs")["wishes"].size

  def into_library
    open_place("playback")
    find("[role=tab]", text: "Songs of this computer").click
    click_button("Bring in a song…")
    field = find_field("Or a folder on this computer")
    settle("the folder's whole name") { field.send_keys([:control, "a"], stems) && field.value == stems }
    click_button("Look at it")
    expect(page).to have_text("left and right become one stereo stem")
    expect(find_field("Tempo").value).to eq("96")
    fill_in("Name of the song", with: "Ropewalk")
    click_button("Bring in 2 stems")
    expect(page).to have_css("th", text: "Ropewalk", wait: 180)
  end

  def into_order
    within("section[aria-label='Songs of this computer']") { find("tr", text: "Ropewalk").click_button("Put into the order") }
    find("[role=tab]", text: "Tonight").click
    find("section[aria-label='Running order'] button", text: "Ropewalk").click
  end

  # The show's own songs are not made for tests.
  before do
    settings = { "setlist/order" => [], "role/order" => [] }
    application.post("/api/edits", "settings" => settings)
    application.get("/api/songs").each { |song| Net::HTTP.start("127.0.0.1", application.port) { |http| http.delete("/api/songs/#{song['id']}", "content-type" => "application/json") } }
  end

  after { application.post("/api/player", "command" => "panic") }

  it "leads from a folder of badly named stems to a song whose click only the drummer hears, and out of a vamp" do
    into_library
    into_order
    expect(page).to have_text(/Frame loop(?:, Strings)? have no output|Strings, Frame loop have no output/)
    find("[role=tab]", text: "Roles and outputs").click
    { "Strings" => "1 and 2, left and right", "Frame loop" => /\A3 →/, "Click" => /\A4 →/ }.each do |role, option|
      find("[aria-label='Outputs of #{role}']", visible: :all).ancestor(".MuiFormControl-root").find("[role=combobox]").click
      find("[role=option]", text: option, match: :first).click
      settle("#{role} on its output") { player["roles"].find { |one| one["name"] == role }["outputs"].any? }
    end
    click_button("Usual wishes for click, guide and pilot…")
    before = wishes
    within("[role=dialog]") { find("button", text: "Make").click }
    settle("the wishes") { wishes > before }
    find("[role=tab]", text: "Tonight").click
    expect(page).to have_text(/Click → In 6\s*.*Drum fill.*never PA ✓/m)

    click_button("Play")
    expect(page).to have_button("Hold to stop")
    settle("the song to play") { player["player"]["state"] == "playing" }
    click_button("Around again")
    expect(page).to have_text("around again")
    click_button("Leave the loop at its end")
    expect(page).to have_button("Around again")
    page.driver.browser.action.move_to(find_button("Hold to stop").native).click_and_hold.pause(duration: 1.3).release.perform
    expect(page).to have_button("Go on")
    expect(player["player"]["state"]).to eq("stopped")
  end
end
