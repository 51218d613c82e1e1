# frozen_string_literal: true

# Playback in the real interface: a folder of badly named stems becomes a song that plays with its click only at the drummer; a vamp that is
# left; a new role that is found and given an output.
RSpec.describe "Playback", type: :feature do
  include_context "with a browser"

  let(:tide) { "5a175a17-0000-4000-8000-000000000002" }

  # Long enough for anybody to press something.
  def stems
    folder = File.join(application.home, "ropewalk")
    FileUtils.mkdir_p(folder)
    { "03_RopeWalk-96bpm STRINGS L" => 220, "04_RopeWalk-96bpm STRINGS R" => 221, "ropewalk 96bpm frame_loop" => 110 }.each do |name, hertz|
      path = File.join(folder, "#{name}.wav")
      Tools.run("sox", "-D", "-n", "-r", 44_100, "-b", 16, "-c", 1, path, "synth", 30, "sine", hertz, "gain", "-12") unless File.exist?(path)
    end
    folder
  end

  def player = application.get("/api/player")

  def wishes = application.get("/api/outputs")["wishes"].size

  def into_library
    open_place("playback")
    find("[role=tab]", text: "Songs on this computer").click
    click_button("Import a song…")
    field = find_field("Or a folder or ZIP file on this computer")
    settle("the folder's whole name") { field.send_keys([:control, "a"], stems) && field.value == stems }
    click_button("Scan")
    expect(page).to have_text("left and right become one stereo stem")
    expect(find_field("Tempo").value).to eq("96")
    fill_in("Name of the song", with: "Ropewalk")
    click_button("Import 2 stems")
    expect(page).to have_css("th", text: "Ropewalk", wait: 300)
  end

  def into_order
    within("section[aria-label='Songs on this computer']") { find("tr", text: "Ropewalk").click_button("Add to running order") }
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
    { "Strings" => /\A1 and 2 →/, "Frame loop" => /\A3 →/, "Click" => /\A4 →/ }.each do |role, option|
      find("[aria-label='Outputs of #{role}']", visible: :all).ancestor(".MuiFormControl-root").find("[role=combobox]").click
      find("[role=option]", text: option, match: :first).click
      settle("#{role} on its output") { player["roles"].find { |one| one["name"] == role }["outputs"].any? }
    end
    click_button("Add usual requirements…")
    before = wishes
    within("[role=dialog]") { find("button", text: "Apply").click }
    settle("the wishes") { wishes > before }
    find("[role=tab]", text: "Tonight").click
    expect(page).to have_text(/Click → In 6\s*.*Drum fill.*never PA ✓/m)

    click_button("Play")
    expect(page).to have_button("Hold to stop")
    settle("the song to play") { player["player"]["state"] == "playing" }
    click_button("Repeat section")
    expect(page).to have_text("repeating, pass")
    click_button("Leave the loop at section end")
    expect(page).to have_button("Repeat section")
    page.driver.browser.action.move_to(find_button("Hold to stop").native).click_and_hold.pause(duration: 1.3).release.perform
    expect(page).to have_button("Resume")
    expect(player["player"]["state"]).to eq("stopped")
  end

  # A song that lies in the library, in the running order, with roles that nobody has sent anywhere.
  def with_new_roles
    SongFolder.write(File.join(application.home, "songs"), { "Strings" => SongFolder.noise(48_000 * 20, 3), "Horns" => SongFolder.noise(48_000 * 20, 4) },
                     id: tide, name: "Tide", meters: [{ "bar" => 1, "meter" => "7/8" }])
    application.post("/api/player/add-song", "song" => tide, "version" => show["version"])
    open_place("playback")
    find("section[aria-label='Running order'] button", text: "Tide").click
  end

  def send_role(role, option)
    within("section[aria-label='New roles']") do
      find("[aria-label='Outputs of #{role}']", visible: :all).ancestor(".MuiFormControl-root").find("[role=combobox]").click
    end
    find("[role=option]", text: option, match: :first).click
  end

  def group(role, name)
    field = find("input[aria-label='Group of #{role}']")
    field.send_keys(name, :enter)
    settle("#{role} in its group") { player["roles"].find { |one| one["name"] == role }["group"] == name }
  end

  it "finds a new role, gives it an output, and turns a group down" do
    with_new_roles
    expect(page).to have_css("section[aria-label='Running order'] button", text: /Strings, Horns have no output/)
    find("[role=tab]", text: "Roles and outputs").click
    send_role("Strings", /\A1 →/)
    expect(page).to have_css("section[aria-label='New roles'] th", text: "Horns")
    send_role("Horns", /\A2 →/)
    expect(page).to have_no_css("section[aria-label='New roles']")
    group("Strings", "Parts")
    group("Horns", "Parts")
    find("[role=group][aria-label='Group Parts']").click_button("Parts 1 dB softer")
    settle("both to be softer") { player["roles"].first(2).map { |role| role["gain_db"] } == [-1, -1] }
  end

  it "goes at another tempo tonight once its parts are made, and is split at the playhead" do
    with_new_roles
    application.post("/api/edits", "settings" => { "role/1/outputs" => [1], "role/2/outputs" => [2] })
    find("summary", text: "Tonight").click
    find_field("Tempo (%)").send_keys([:control, "a"], "80", :enter)
    expect(page).to have_css("section[aria-label='Running order'] button", text: "not rendered at 80 % yet")
    click_button("Render stems")
    settle("the parts") { player["items"].first["made"] }
    expect(page).to have_no_button("Render stems")
    expect(player["items"].first).to include("seconds" => 25.0, "bpm" => "96", "problem" => nil)
    application.post("/api/player", "command" => "load", "item" => player["items"].first["key"])
    application.post("/api/player", "command" => "play", "sample" => 480_000)
    click_button("Song…")
    settle("some of it") { player["player"]["position"].to_i > 500_000 }
    expect(find_field("Accents in 7/8 (beats)").value).to eq("1")
    click_button("Split at the playhead’s bar")
    expect(page).to have_field("Name of section 2")
    # Bars of 7/8 at 120 quarter notes per minute last 84,000 samples of the song as it is.
    from = application.get("/api/songs/#{tide}")["parts"].last["from"]
    expect([from % 84_000, from]).to match([0, be_between(336_000, 900_000)])
  end
end
