# frozen_string_literal: true

# The line check as somebody does it at the desk, with a hand on stage who does what the advice says.
RSpec.describe "Line check", type: :feature do
  include_context "with a browser"

  let(:hand) { Loomshuttle::StandIns::Desk::Hand.new(application.port + 2) }

  def roll = application.get("/api/line-check")["lines"]
  def verdicts = roll.to_h { |line| [line["name"], line["verdict"]] }
  def with_preamp = roll.reject { |one| one["gain"].nil? }
  def green? = with_preamp.all? { |one| one["verdict"] == "good" }
  def wanting = with_preamp.reject { |one| one["verdict"] == "good" }.map { |one| one.values_at("name", "verdict", "reason", "advice") }
  def line(name) = find(".linecheck-roll-line", text: name)

  # For the backing tracks: a stereo track of a take that carries two cornets, played on their returns.
  def backing_take
    own = { "send/31/source" => "desk/ch/31", "send/32/source" => "desk/ch/32", "send/31/tap" => "channel-in", "send/32/tap" => "channel-in" }
    cornets = { "send/31/source" => "desk/ch/2", "send/32/source" => "desk/ch/3", "track/31/outputs" => [31, 32] }
    application.post("/api/edits", settings: cornets, wait: true)
    take = application.take(application.capture("name" => "Backing", "frames" => 8 * 48_000))
    application.post("/api/edits", settings: own, wait: true)
    take["number"]
  end

  # What was on its way before the cable was swapped may have been heard since: the advice is to listen again.
  def listened_again?
    verdicts["Hurdy-gurdy"] == "hum" && application.post("/api/line-check/forget", { "channel" => 16 }) && false
  end

  # There may be nothing to advise any more at that moment: the button has gone grey before it is reached.
  def asked_for_advice?
    page.has_button?("Apply all advice…", wait: 0) && click_button("Apply all advice…", wait: 0) && page.has_css?("[role=dialog]")
  rescue Capybara::ElementNotFound, Selenium::WebDriver::Error::ElementClickInterceptedError
    false
  end

  def take_advice
    within("[role=dialog]") { find_button(text: /Apply \d+ changes?/, disabled: :all).disabled? ? click_button("Cancel") : click_button(text: /Apply \d+ changes?/) }
    expect(page).to have_no_css("[role=dialog]")
    Tools.wait_until(60, "the desk in step") { application.get("/api/state")["desk"]["apart"] == 0 }
  end

  it "goes from the demo's start to all green by its advice only" do
    take = backing_take
    application.post("/api/line-check/forget", {})
    open_place("line-check")
    Tools.wait_until(60, "a verdict on all that play") { roll.count { |one| one["verdict"] == "not heard yet" } == 3 && verdicts["Hurdy-gurdy"] == "hum" }
    expect(line("Hurdy-gurdy")).to have_text("Swap the cable or lift the DI ground")
    expect(line("Spare")).to have_text("Ask for signal")
    expect(line("Playback L")).to have_text("Play something on Card return 31")
    hand.run("stage", "cable", "a.1/16")
    hand.run("stage", "sound", "a.1/15")
    application.post("/api/take-playback", "take" => take, "loop" => true)
    application.post("/api/line-check/forget", { "channel" => 16 })
    # A busy machine measures some while their gain is still being set: what is advised then is taken, too.
    8.times do
      Tools.wait_until(60, "everybody to be heard") { listened_again? || !verdicts.values.intersect?(["not heard yet", "hum"]) }
      Tools.wait_until(60, -> { "advice to #{wanting}, or nobody who needs any" }) { green? || listened_again? || asked_for_advice? }
      take_advice if page.has_css?("[role=dialog]", wait: 0)
      break if green?
    end
    Tools.wait_until(60, "everybody to be good") { verdicts.except("Playback L", "Playback R").values.uniq == ["good"] }
    expect(with_preamp.size).to eq(30)
    # The desk has no preamp for what comes by the card: the advice says where to turn it.
    expect(roll.select { |one| one["gain"].nil? }.map { |one| one["advice"] }).to all(be_nil.or(start_with("no preamp")))
    expect(page).to have_css(".look-pill.look-well", text: /3\d good/)
    expect(application.get("/api/state")["desk"]).to include("apart" => 0)
  ensure
    application.post("/api/take-playback/stop")
    hand.run("stage", "quiet", "a.1/15")
  end

  it "lights who makes a noise, and keeps who ticked what" do
    hand.run("stage", "quiet", "all")
    open_place("line-check")
    # A floor is reported after a second. Forgotten levels, such as pauses between notes, do not count.
    application.post("/api/line-check/forget", {})
    Tools.wait_until(60, "a second of silence") { roll.find { |one| one["name"] == "Euphonium" }["floor"]&.<(-60) }
    expect(page).to have_no_css(".linecheck-roll-line.linecheck-noisy")
    hand.run("stage", "sound", "a.2/1")
    expect(page).to have_css(".linecheck-roll-line.linecheck-noisy", text: "Euphonium")
  ensure
    hand.run("stage", "sound", "all")
    hand.run("stage", "quiet", "a.1/15") # nobody plays into the spare microphone
  end

  it "gives a hand on stage the list of sockets with lights, to tick off" do
    visit("#{application.url}/#/stage")
    expect(page).to have_css("section[aria-label='Box A, Bramble 16, stage left'] .stage-socket-row", count: 16)
    row = find(".stage-socket-row", text: "Fiddle")
    expect(row).to have_text(/A 4.*48 V/m)
    row.click
    expect(page).to have_css(".stage-socket-row.stage-done", text: "Fiddle")
    expect(page).to have_text("1 of 30 plugged")
    in_second_browser do
      visit("#{application.url}/#/stage")
      expect(page).to have_css(".stage-socket-row.stage-done", text: "plugged by somebody")
      check("Only what is not plugged yet")
      expect(page).to have_no_css(".stage-socket-row", text: "Fiddle")
    end
  end
end
