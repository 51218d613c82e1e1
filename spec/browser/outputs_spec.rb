# frozen_string_literal: true

require "open3"

# Who hears what, mended, timed and gone through by keyboard.
RSpec.describe "The Outputs place", type: :feature do
  include_context "with a browser"

  def view(name) = find("[role=tab]", text: name).click
  def card(name) = find("button.outputs-card", text: name)
  def source(name) = find("button.outputs-source", text: name)
  def edit(settings) = application.post("/api/edits", settings: settings)
  def levels(values) = application.post("/api/levels", values: values)
  def output(number) = application.get("/api/outputs")["outputs"][number - 1]

  it "mends a click that leaks into the PA through a subgroup, from its finding" do
    edit("channel/33/name" => "Spare click", "channel/33/stage" => "card/return/33", "channel/33/main" => false, "bus/11/name" => "Rhythm", "bus/11/mode" => "subgroup",
         "bus/11/main" => true, "channel/33/groups" => [11])
    levels("channel/33/fader" => -10)
    open_place("outputs")
    card("PA").click
    source("Spare click").click
    within("aside[aria-label='Signal path']") do
      expect(page).to have_text("Spare click can be heard by PA, at −10 dB.")
      ["Card return 33", "Channel 33 at post-fader", "Bus 11", "Main L", "Output 15"].each { |hop| expect(page).to have_text(hop) }
    end
    find("header button", text: /finding/).click
    within("[role=dialog][aria-label=Findings]") { click_button("Remove Spare click from subgroup Bus 11 Rhythm", match: :first) } # the bridge hears main as well
    within("[role=dialog]", text: "Apply 1 change") do # what is taken from a listener is looked at first
      expect(page).to have_text("Spare click")
      click_button("Apply 1 change")
    end
    expect(page).to have_css("[role=dialog][aria-label=Findings] h2", text: /No findings|finding/)
    settle("no leak") { application.get("/api/findings").then { |all| all.is_a?(Array) && all.none? { |one| one["check"] == "cue-at-audience" } } }
    within("[role=dialog][aria-label=Findings]") { click_button("Close") }
    expect(page).to have_css("button.outputs-source", text: /Spare click.*silent/m)
  end

  it "presses exactly what a broken wish needs at the desk, once that was looked at" do
    edit("wish/1/db" => -9)
    levels("channel/10/send/5" => -12)
    open_place("outputs")
    expect(card("Ada")).to have_text("✕ 1 unmet requirement")
    card("Ada").click
    source("Voice Ada").click
    click_button("Raise it by 3 dB at the desk…")
    within("[role=dialog]", text: "Raise it by 3 dB at the desk") do
      expect(page).to have_css("tr", text: /Voice Ada, send to Bus 5 Ear Ada.*−12 dB.*−9 dB/m)
      expect(page).to have_text("Ada: Voice Ada, −12.0 dB → −9.0 dB")
      click_button("Apply to desk")
    end
    expect(page).to have_css("button.outputs-card", text: /Ada.*all met/m)
    expect(application.desk_fact("strip/10/bus/5").to_f).to eq(-9.0)
  ensure
    levels("channel/10/send/5" => -12)
  end

  it "shows who hears something else while a fader moves at the desk" do
    open_place("outputs")
    card("PA").click
    expect(source("Whistles")).to have_text("−6.0")
    hand("strip/9/fader", "-21.5")
    expect(page).to have_css("button.outputs-source", text: /Whistles.*−21.5/m)
  ensure
    hand("strip/9/fader", "-6")
  end

  it "sets delays from distances" do
    edit("output/9/delay" => 0, "setup/temperature" => 20)
    open_place("outputs")
    view("Room and delays")
    find("[aria-label='Output 9, Matrix 1 from the stage']").send_keys([:control, "a"], "40", :enter)
    settle("its place") { output(9)["y"] == 40 }
    click_button("Set all delays…")
    click_button("Apply 1 change")
    settle("the delay") { output(9)["delay"].positive? }
    expect(page).to have_text("in time")
    main, own = [[-5, 0], [5, 0]].map { |x, y| Math.hypot(x - 2, y - 36) }.min, Math.hypot(4 - 2, 40 - 36)
    expect(output(9)["delay"]).to be_within(1).of((main - own) / 343.2 * 48_000)
  end

  it "is gone through by keyboard only: the table, and several outputs in one step" do
    open_place("outputs")
    find("[role=tab]", text: "All levels").send_keys(:enter)
    find("[data-cell='0-0']").send_keys(:arrow_down, :arrow_right)
    expect(page.evaluate_script("document.activeElement.getAttribute('aria-label')")).to start_with("Cornet 1 for Wedge left:")
    keys(:enter)
    expect(page).to have_css("aside h2", text: "Cornet 1 → Wedge left")
    find("[role=tab]", text: "Outputs and buses").send_keys(:enter)
    find("table[aria-label=Outputs]").send_keys(*([:arrow_down] * 9), *[%i[shift arrow_down]] * 2)
    keys("bus 9", :enter)
    settle("three outputs") { (10..12).map { |n| output(n)["source"] } == %w[desk/bus/9 desk/bus/10 desk/bus/11] }
  end

  it "shows what an edit would silence for whom before it is made" do
    levels("channel/10/send/5" => -12)
    open_place("outputs")
    view("Outputs and buses")
    find("table[aria-label=Outputs]").send_keys(*([:arrow_down] * 4), :delete)
    within("[role=dialog]") do
      expect(page).to have_text(/level changes? for listeners/)
      expect(page).to have_text("Ada: Voice Ada, −12.0 dB → silent")
      click_button("Cancel")
    end
    expect(output(5)["source"]).to eq("desk/bus/5")
  end

  it "keeps levels by name, and tells by them when the desk says something else" do
    open_place("outputs")
    click_button("Save snapshot…")
    fill_in("Snapshot name", with: "Soundcheck")
    click_button("Save")
    expect(page).to have_css("option", text: /Soundcheck/)
    levels("channel/9/fader" => -40)
    card("PA").click
    expect(page).to have_css("button.outputs-source", text: /Whistles.*−40.0/m)
    find("select", match: :first).find("option", text: /Soundcheck/).select_option
    expect(page).to have_css("button.outputs-source", text: /Whistles.*−6.0/m)
  ensure
    levels("channel/9/fader" => -6)
  end

  it "lets somebody listen as a listener, now" do
    open_place("outputs")
    card("Ada").click
    click_button("Listen as Ada")
    expect(page).to have_text("Heard: computed from the channels’ card sends")
    edit("send/34/source" => "desk/bus/5", "send/34/tap" => "post-fader")
    expect(page).to have_text("Heard: the desk’s own sound")
    heard = -> { application.get("/api/hearing/now?listener=#{application.get('/api/hearing')['listeners'].find { |one| one['title'] == 'Ada' }['number']}") }
    expect(heard.call).to include("by" => "outputs", "frames" => be > 12_000)
    click_button("Stop listening")
    expect(page).to have_no_text("Heard: the desk")
  end

  it "traces what comes out of a socket" do
    open_place("outputs")
    view("Outputs and buses")
    click_button("Trace Box B out 7")
    within("aside[aria-label=Trace]") { ["Main L", "Output 15", "Box B out 7"].each { |text| expect(page).to have_text(/#{text}/i) } }
  end

  def hand(address, value)
    out, err, status = Open3.capture3(File.join(Loomshuttle::ROOT, "bin", "desk"), "set", address, value, "--port", application.port.to_s)
    raise "#{out}#{err}" unless status.success?
  end
end
