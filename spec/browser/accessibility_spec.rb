# frozen_string_literal: true

# What axe-core, a general checker of WCAG 2.2 and WAI-ARIA 1.2, finds on every place and in every dialog, in both themes: nothing.
RSpec.describe "The interface to everybody", type: :feature do
  include_context "with a browser"

  let(:show_file) { "show.json" }

  # As it stands in the light theme, and its colours in the dark one: colours hang on the page's theme alone (CSS variables).
  def faults(what)
    { "light" => nil, "dark" => Axe::COLOURS }.flat_map do |theme, rules|
      page.execute_script("document.documentElement.dataset.theme = '#{theme}'")
      grounds[theme] ||= page.evaluate_script("getComputedStyle(document.body).backgroundColor")
      Axe.faults(page, only: rules).map { |fault| "#{theme}, #{what}: #{fault}" }
    end
  ensure
    page.execute_script("document.documentElement.dataset.theme = 'light'")
  end

  # What a page's ground is in each theme.
  def grounds = @grounds ||= {}

  # Both themes were really looked at.
  def nothing_found(found)
    expect(found).to eq([]), found.join("\n")
    expect(grounds.values.uniq.size).to eq(2)
  end

  # @param sign [String] what is there once the place is
  def at(place, sign)
    open_place(place)
    expect(page).to have_css(sign)
    faults(place)
  end

  def section(name)
    find("[role=tab]", text: name).click
    expect(page).to have_css("[role=tab][aria-selected=true]", text: name)
    faults(name)
  end

  def outputs
    at("outputs", ".outputs-source") + ["All levels", "Room and delays", "Outputs and buses"].flat_map { |name| section(name) }
  end

  def playback
    at("playback", "section[aria-label='Running order']") + ["Roles and outputs", "Songs on this computer"].flat_map { |name| section(name) }
  end

  def song_on_stage
    visit("#{application.url}/#/stage/song")
    expect(page).to have_css("h1")
    faults("song on stage")
  end

  def stage
    visit("#{application.url}/#/stage")
    expect(page).to have_css(".stage-socket-row", minimum: 10)
    faults("stage")
  end

  # To whatever has the focus by then.
  def escape = page.driver.browser.action.send_keys(:escape).perform || true

  # Opens what a button opens, looks at it, and closes it.
  def opened(what, &open)
    open.call
    expect(page).to have_css("[role=dialog], .MuiPopover-root, .MuiDrawer-root")
    faults(what).tap do
      # A list that is open in it closes first.
      Tools.wait_until(60, "#{what} to close") { escape && page.has_no_css?(".MuiModal-root", wait: 1) }
    end
  end

  it "is without a fault on every place" do
    visit(application.url)
    nothing_found(
      at("patch", "[role=gridcell]") + at("rig", "[data-device=desk]") + at("line-check", ".linecheck-roll-line") + at("capture", ".capture-lane") +
        at("soundcheck", "[role=listitem]") + at("handover", "[role=tab]") + %w[Presets Compare Journal].flat_map { |name| section(name) } + outputs +
        playback + stage + song_on_stage
    )
  end

  # WCAG 2.2, 2.5.3 Label in Name: who speaks to the computer says what stands there. The rule is one of axe's own; here it is seen to bite.
  it "calls what can be pressed by the words that are seen on it" do
    open_place("patch")
    expect(cell("desk/ch/1")["aria-label"]).to eq("Channel 1 Tuba")
    expect(Axe.faults(page)).to eq([])
    page.execute_script("document.querySelector(`[data-port='desk/ch/1']`).setAttribute('aria-label', 'The first of all')")
    expect(Axe.faults(page)).to match([a_string_starting_with("label-content-name-mismatch")])
  end

  it "is without a fault in every dialog" do
    application.take(application.capture(name: "To look at", frames: 4800))
    SongFolder.write(File.join(application.home, "songs"), { "Strings" => SongFolder.noise(480_000) }, id: "5a175a17-0000-4000-8000-000000000001")
    nothing_found(dialogs_of_patch + dialogs_of_the_band + dialogs_of_playback + dialogs_elsewhere)
  end

  def dialogs_of_patch
    open_place("patch")
    opened("auto-patch") { click_button("Auto-patch…") } +
      opened("input list") { click_button("Input list…") } +
      opened("run straight") { click_button("Patch in order…") } +
      opened("tracks") { click_button("Tracks…") } +
      opened("keys") { find("body").send_keys("?") } +
      opened("a cell") { cell("desk/ch/3").click && keys(:enter) } +
      opened("a dye") { cell("desk/ch/3").click && keys(:f4) } +
      opened("a range") { cell("desk/ch/3").click && keys(%i[shift down], :enter) }
  end

  def dialogs_of_the_band
    opened("shows") { find("header button", text: "Lantern Quay").click } +
      opened("a new show") { find("header button", text: "Lantern Quay").click && click_button("New show…") } +
      opened("words of the show") { find("header button", text: "Lantern Quay").click && click_button("Edit details…") } +
      opened("plan and desk") { desk_dialog } +
      opened("findings") { find("header button", text: /finding/).click } +
      opened("person") { find("[aria-label='You and the theme']").click }
  end

  def dialogs_of_playback
    open_place("playback")
    found = opened("a song to add") { click_button("Add a song…") } + opened("a song") { click_button("Song…") }
    find("[role=tab]", text: "Songs on this computer").click
    found + opened("a song to bring in") { click_button("Import a song…") }
  end

  def dialogs_elsewhere
    open_place("rig")
    found = opened("profiles") { click_button("Device profiles…") }
    open_place("outputs")
    found += opened("a listener") { find_button("Change PA").click } + opened("wishes") { click_button("Requirements…") } + opened("levels") { click_button("Save snapshot…") }
    open_place("capture")
    found + opened("a delivery") { click_button("Import recordings…") } + opened("a take") { find(".capture-take-line", match: :first).click }
  end
end
