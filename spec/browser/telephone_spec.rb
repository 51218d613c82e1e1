# frozen_string_literal: true

# The interface on a telephone, 390 pixels wide: what is needed beside a stage is at hand, and nothing is beyond its edge.
RSpec.describe "The interface on a telephone", type: :feature do
  include_context "with a browser"

  let(:browser) { page.driver.browser }

  # What reaches beyond the right edge, and what scrolls sideways.
  let(:beyond) { browser.execute_script(<<~JS) }
    return [...document.querySelectorAll('body *')].filter((one) => {
      const box = one.getBoundingClientRect(), style = getComputedStyle(one);
      if (box.width === 0) return false;
      return box.right > innerWidth + 1 || (['auto', 'scroll'].includes(style.overflowX) && one.scrollWidth > one.clientWidth + 1);
    }).map((one) => `${one.tagName} ${one.className}`).concat(document.documentElement.scrollWidth > innerWidth ? ['the page'] : []);
  JS

  before { browser.execute_cdp("Emulation.setDeviceMetricsOverride", width: 390, height: 844, deviceScaleFactor: 1, mobile: true) }
  after { browser.execute_cdp("Emulation.clearDeviceMetricsOverride") }

  { "rig" => "Device profiles…", "patch" => "Auto-patch…", "line-check" => "Start over", "capture" => "Capture", "soundcheck" => "Return to stage", "playback" => "Tonight",
    "outputs" => "Who hears what", "handover" => "Sheets and files" }.each do |place, needed|
    it "has all of #{place} within its width, and #{needed} at hand" do
      open_place(place)
      expect(page).to have_button(needed, disabled: :all)
      expect(beyond).to eq([])
    end
  end

  context "with the demo's show" do
    let(:show_file) { "show.json" }

    # Views, each with what is there once it is.
    { "outputs" => { "All levels" => "[data-cell]", "Room and delays" => "td[data-head='Heard']", "Outputs and buses" => "tr[data-bus]" },
      "playback" => { "Roles and outputs" => "td[data-head='Plays to']", "Songs on this computer" => "td[data-head='Tempo']" },
      "handover" => { "Presets" => "[aria-label='Preset name']", "Compare" => "[role=combobox]", "Journal" => "ol.handover-journal li" } }.each do |place, views|
      it "has the views of #{place} within its width" do
        SongFolder.write(File.join(application.home, "songs"), { "Strings" => SongFolder.noise(480_000) }, id: "5a175a17-0000-4000-8000-000000000001")
        application.post("/api/edits", settings: { "channel/1/name" => "Tuba by the left wall, with a long name" }) # one line of the journal
        open_place(place)
        views.each do |view, sign|
          find("[role=tab]", text: view).click
          expect(page).to have_css(sign, minimum: 1)
          expect(beyond.map { |one| "#{view}: #{one}" }).to eq([])
        end
      end
    end
  end

  it "sets a strand from its sheet, whose rails give room to the one in hand" do
    open_place("patch")
    wide = ->(point) { page.evaluate_script("document.querySelector(`[data-port='#{point}']`).offsetWidth") }
    cell("desk/ch/2")
    expect(wide["desk/ch/2"]).to be > 2 * wide["track/2/in"]
    cell("track/2/in").click
    expect(page).to have_css("[role=columnheader]", exact_text: "Chan")
    expect(wide["track/2/in"]).to be > 2 * wide["desk/ch/2"]
    expect(beyond).to eq([])
    cell("track/2/in").double_click
    fill_in("Name", with: "High cornet")
    find_field("Name").send_keys(:enter)
    settle("the name") { setting("track", 2)["title"] == "High cornet" }
  end
end
