# frozen_string_literal: true

require_relative "../../bench/big_show"

# The strand sheet: cells, ranges, names, blocks, and what is refused.
RSpec.describe "The Patch place", type: :feature do
  include_context "with a browser"

  it "runs straight from the chosen range" do
    open_place("patch")
    cell("track/1/in").click
    keys(%i[shift arrow_down], %i[shift arrow_down])
    click_button("Patch in order…")
    expect(find_field("Count").value).to eq("3")
    fill_in("Starting with card send", with: "4")
    within("[role=dialog]") { click_button("Patch in order") }
    expect(page).to have_css("[role=dialog]", text: "This breaks 3 strands")
    ["Tuba loses its track", "Cornet 1 loses its track"].each { |loss| expect(page).to have_css("[role=dialog] li", text: loss) }
    expect(show["tracks"].first["inputs"]).to eq([1])
    click_button(text: /Apply \d+ changes/)
    settle("the run") { show["tracks"].first(3).map { |track| track["inputs"] } == [[4], [5], [6]] }
    click_button("Undo")
    settle("undo") { show["tracks"].first(3).map { |track| track["inputs"] } == [[1], [2], [3]] }
  end

  it "is one stop from the top of the page, and makes a subgroup of a range" do
    open_place("patch")
    page.execute_script("document.activeElement.blur()")
    keys(:tab)
    expect(page.evaluate_script("document.activeElement.textContent")).to eq("To the strands")
    keys(:enter)
    expect(page.evaluate_script("document.activeElement.getAttribute('role')")).to eq("gridcell")
    cell("desk/ch/1").click
    keys(%i[shift arrow_down], %i[shift arrow_down])
    click_button("Set 3 at once…")
    pick("Subgroup", "into a new subgroup")
    click_button(text: /Apply \d+ changes/)
    settle("the subgroup") { show["channels"].first(3).map { |channel| channel["groups"] }.uniq.then { |groups| groups.size == 1 && groups.first.size == 1 } }
    expect(show["channels"].first(3).map { |channel| channel["main"] }).to eq([false] * 3)
    click_button("Undo")
    settle("undo") { show["channels"].first["groups"] == [] }
  end

  it "says why an edit is refused, and keeps what was" do
    open_place("patch")
    cell("desk/ch/1").double_click
    fill_in("Preamp gain (dB)", with: "99")
    find_field("Preamp gain (dB)").send_keys(:enter)
    expect(page).to have_css("[role=alert]", text: "Channel 1 Tuba, preamp gain: the preamp goes from −6 to 60 dB, not 99.")
    expect(page).to have_field("Preamp gain (dB)", with: "18")
  end

  it "shows what moves along in a block, and takes a free slot instead when asked" do
    open_place("patch")
    cell("desk/ch/4").double_click
    choose("Stage source", "Box A in 12")
    within("[role=dialog]", text: "Use a free slot") do
      expect(page).to have_css("[role=radio][aria-checked=true]", text: "Use a free slot")
      expect(page).to have_text("Fiddle takes a free slot; 16 left.")
      find("[role=radio]", text: "Move the whole block").click
      expect(page).to have_css("tr", text: "Tuba", minimum: 1)
      find("[role=radio]", text: "Use a free slot").click
      expect(page).to have_no_text("Tuba")
      click_button(text: /Apply \d+ change/)
    end
    settle("the free slot") { setting("channel", 4)["stage"] == "link/a/up/12" }
    expect(setting("channel", 1)["stage"]).to eq("link/a/up/1")
    settle("the desk in step") { application.get("/api/state")["desk"]["apart"].to_i.zero? }
  end

  it "names, dyes, pairs, arms and pastes in place" do
    open_place("patch")
    cell("desk/ch/1").click
    keys(:f2)
    keys([:control, "a"], "Great tuba", :enter)
    settle("the name") { setting("channel", 1)["name"] == "Great tuba" }
    expect(page).to have_css("[data-port='track/1/in']", text: "Great tuba") # inherited
    keys([:control, "a"], "First cornet", :enter, [:control, "a"], "Second cornet", :enter, :escape) # Enter goes on to the next
    settle("the next names") { show["channels"][1, 2].map { |one| one["name"] } == ["First cornet", "Second cornet"] }
    cell("desk/ch/1").click
    keys(:f4)
    find("[role=dialog] [aria-label=woad]").click
    settle("the dye") { setting("channel", 1)["colour"] == "woad" }
    cell("desk/ch/11").click
    click_button("Pair")
    settle("the pair") { setting("channel", 11)["paired"] }
    click_button("Split")
    settle("the split") { !setting("channel", 11)["paired"] }
    cell("track/2/in").click
    keys(:space)
    settle("disarmed") { !setting("track", 2)["armed"] }
    cell("desk/ch/2").click
    page.execute_script(<<~JS)
      const data = new DataTransfer(); data.setData('text', 'High cornet\\nLow cornet');
      document.querySelector("[data-port='desk/ch/2']").dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true }));
    JS
    settle("two names") { show["channels"][1, 2].map { |one| one["name"] } == ["High cornet", "Low cornet"] }
  end

  it "sets a range at once, and finds and filters" do
    open_place("patch")
    cell("desk/ch/10").click
    keys(%i[shift arrow_down], %i[shift arrow_down])
    click_button("Set 3 at once…")
    fill_in("Names (one name is numbered)", with: "Voice")
    find_field("Names (one name is numbered)").send_keys(:enter)
    settle("three names") { show["channels"][9, 3].map { |one| one["name"] } == ["Voice 1", "Voice 2", "Voice 3"] }
    keys(:escape, "/")
    keys("voice 2")
    expect(page).to have_no_css("[data-port='desk/ch/10']")
    expect(page).to have_css("[data-port='desk/ch/11']", text: "Voice 2")
    keys(:escape)
    find("[role=radio]", text: "Incomplete").click
    expect(page).to have_no_css("[data-port='desk/ch/1']")
    expect(page).to have_css("[data-port='desk/ch/31']", text: "Playback L") # it does not come back
  end

  it "shows a missing socket with its reason, and does not take it" do
    open_place("patch")
    cell("desk/ch/1").click
    keys(:end) # only rows that are seen are drawn
    cell("desk/ch/30").double_click
    find_field("Stage source").send_keys([:control, "a"], "In 16")
    expect(page).to have_css("[role=option][aria-disabled=true]", text: /In 16.*missing/m)
  end

  it "makes tracks from channels, and looks at them first" do
    application.post("/api/edits", settings: (33..36).to_h { |n| ["channel/#{n}/name", "Guest #{n}"] })
    open_place("patch")
    click_button("Tracks…")
    { "First channel" => 33, "Number of channels" => 4, "First track" => 33, "First card lane" => 33 }.each { |label, value| fill_in(label, with: value) }
    click_button("Preview tracks…")
    expect(page).to have_css("[role=dialog] tr", text: "Guest 36", minimum: 1)
    expect(setting("track", 33)["inputs"]).to eq([])
    click_button(text: /Apply \d+ changes/)
    settle("the tracks") { (33..36).all? { |n| setting("track", n).values_at("inputs", "outputs", "title") == [[n], [n], "Guest #{n}"] } }
    expect((33..36).map { |n| show["sends"][n - 1]["source"] }).to eq((33..36).map { |n| "desk/ch/#{n}" })
  end

  it "tells every hop of a strand, and leads to the setting that made it" do
    open_place("patch")
    cell("desk/ch/17").click
    within("aside[aria-label=Trace]") do
      ["Box B in 1", "Link A, lane 17", "Card send 17", "Track 17 in", "Card return 17"].each { |hop| expect(page).to have_text(hop) }
      click_button("Change Card send 17")
    end
    expect(page).to have_css("[role=dialog][aria-label='Set Send · tap 17']")
  end

  it "draws a sheet of 128 strands by what is seen, and reaches its end by keyboard" do
    big = BigShow.straight(128)
    application.post("/api/shows", file: Loomshuttle::Formats::ShowFile.write(big, shipped: []), open: true)
    open_place("patch", "Bench")
    expect(page).to have_css("[role=radio][aria-checked=true]", text: "All 128")
    expect(page.all("[role=gridcell]").size).to be_between(50, 320)
    expect(page).to have_no_css("[data-port='desk/ch/128']")
    cell("desk/ch/1").click
    keys(:end)
    expect(page).to have_css("[data-port='desk/ch/128'].sheet-at", text: "Source 128")
    keys(:f2)
    keys([:control, "a"], "Last one", :enter)
    settle("the name") { setting("channel", 128)["name"] == "Last one" }
  end
end
