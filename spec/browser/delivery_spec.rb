# frozen_string_literal: true

# A badly named delivery, brought in.
RSpec.describe "Bringing in a delivery", type: :feature do
  include_context "with a browser"

  let(:folder) { Dir.mktmpdir("usb stick", application.home) }

  def tone(name, hertz, seconds)
    wav = File.join(application.home, "tone.wav")
    Tools.run("sox", "-D", "-n", "-r", "44100", "-b", "24", "-c", "1", "-t", "wavpcm", wav, "synth", seconds, "sine", hertz, "gain", "-6")
    Tools.run("ffmpeg", "-v", "error", "-y", "-i", wav, File.join(folder, name))
  end

  it "shows what would become of each file, and makes a take of it that plays" do
    files = { "04_FIDDEL-0001.flac" => 440, "04_FIDDEL-0002.flac" => 440, "01 tuba (final).mp3" => 110, "VoxAda.aif" => 330, "Unknown thing.wav" => 880 }
    files.each { |name, hertz| tone(name, hertz, 2) }
    open_place("capture")
    click_button("Import recordings…")
    find_field("Or a folder or ZIP file on the recording computer").send_keys(folder) # a long text is not typed key by key otherwise
    click_button("Scan")
    expect(page).to have_css(".capture-delivery tr", text: /FIDDEL-0001\.flac, 04_FIDDEL-0002\.flac.*4 Fiddle.*2 parts are joined/m)
    expect(page).to have_css(".capture-delivery tr", text: /VoxAda.*10 Voice Ada.*44\.1 kHz becomes 48\.0 kHz/m)
    expect(page).to have_css(".capture-delivery tr", text: /Unknown thing.*no track has this name/m)
    find("input[aria-label='Take Unknown thing']", visible: :all).click
    within("[role=dialog]") { fill_in("Take name", with: "Rehearsal") }
    click_button("Import 3 recordings")
    expect(page).to have_css(".capture-take-line", text: "Rehearsal")
    take = application.get("/api/takes").find { |one| one["name"] == "Rehearsal" }
    expect(take["tracks"].map { |track| [track["number"], track["name"]] }).to contain_exactly([1, "Tuba"], [4, "Fiddle"], [10, "Voice Ada"])
    expect(take["frames"]).to be_within(200).of(4 * 48_000)
    expect(application.post("/api/take-playback", "take" => take["number"])).to include("number" => take["number"])
    application.post("/api/take-playback/stop")
  end

  it "is arranged by hand: two sides are joined, and one is moved" do
    { "one.wav" => 110, "two.wav" => 220, "three.wav" => 330 }.each { |name, hertz| tone(name, hertz, 1) }
    open_place("capture")
    click_button("Import recordings…")
    find_field("Or a folder or ZIP file on the recording computer").send_keys(folder)
    click_button("Scan")
    find("button[aria-label='Arrange one']").click
    find("[role=menuitem]", text: "Join with another…").click
    within("[role=dialog]", text: "Join one with another") do
      find("label", text: "pair as right channel").click
      click_button("Join")
    end
    expect(page).to have_css(".capture-delivery tr", text: /one\.wav with three\.wav.*left and right become one stereo recording/m)
    find_field("Start of two").send_keys([:control, "a"], "0.5", :enter)
    within("[role=dialog]", text: "Import recordings") { fill_in("Take name", with: "Arranged") }
    click_button("Import 2 recordings")
    expect(page).to have_css(".capture-take-line", text: "Arranged")
    take = application.get("/api/takes").find { |one| one["name"] == "Arranged" }
    expect([take["tracks"].map { |track| [track["name"], track["inputs"].size] }, take["frames"]]).to match([contain_exactly(["one", 2], ["two", 1]), be_within(200).of(72_000)])
  end

  it "is sent from the browser, too" do
    tone("Tuba.wav", 110, 1)
    open_place("capture")
    click_button("Import recordings…")
    attach_file("Files to import", File.join(folder, "Tuba.wav"))
    expect(page).to have_css(".capture-delivery tr", text: /Tuba\.wav.*1 Tuba/m)
    click_button("Back")
    fill_in("Or a folder or ZIP file on the recording computer", with: "/nowhere")
    click_button("Scan")
    expect(page).to have_css("[role=alert]", text: "/nowhere is outside the allowed import folders")
  end
end
