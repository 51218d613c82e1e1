# frozen_string_literal: true

# Devices and links: what a change would break is told before it is made.
RSpec.describe "The Rig place", type: :feature do
  include_context "with a browser"

  def device(id) = find("[data-device=#{id}]")

  it "shows which strands a box takes with it, and takes it only then" do
    open_place("rig")
    device("b").click
    click_button("Remove Box B…")
    within("[role=dialog]") do
      expect(page).to have_text("This breaks 14 strands")
      expect(page).to have_text("Channel 17 Euphonium loses its socket")
      click_button("Cancel")
    end
    expect(application.get("/api/rig")["boxes"].map { |box| box["letter"] }).to eq(%w[a b])
    click_button("Remove Box B…")
    click_button(text: /Apply \d+ changes/)
    expect(page).to have_no_css("[data-device=b]")
    expect(page).to have_css("header button", text: /findings/)
    open_place("patch")
    click_button("Undo") # each browser undoes its own
    open_place("rig")
    expect(page).to have_css("[data-device=b]", text: "in 17–32, out 9–16")
  end

  it "sets clock, buffer and card, with latency and lanes beside them" do
    open_place("rig")
    device("recorder").click
    pick("Buffer", "256 samples")
    settle("the buffer") { show["setup"]["buffer"] == 256 }
    rig = application.get("/api/rig")["recorder"]
    expect(rig["in_ms"] + rig["out_ms"]).to be_within(0.11).of(rig["total_ms"])
    expect(page).to have_css("[data-device=recorder]", text: format("%.1f ms in all", rig["total_ms"]))
    pick("Leads the clock", "Box A")
    settle("the clock") { application.get("/api/state")["clock"] == "Box A leads the clock" }
    expect(page).to have_css("[data-device=a] .rig-leads")
    expect(page).to have_no_css("[data-device=desk] .rig-leads")
    expect(page).to have_css("[aria-label^='Link A: 30 of 48 lanes to desk']")
  end

  it "moves the desk to another kind with everything that does not fit told first" do
    open_place("rig")
    device("desk").click
    pick("Desk", "Rowan 10")
    within("[role=dialog]") do
      expect(page).to have_text(/This breaks \d+ strands/)
      click_button("Cancel")
    end
    expect(show["profile"]["name"]).to eq("Alder 40")
  end

  it "checks a profile that is brought in, and says what is wrong and where" do
    open_place("rig")
    click_button("Device profiles…")
    data = application.get("/api/profiles").find { |one| one["id"] == "bramble-16" }["data"]
    attach_file("Profile file", written("bad.json", data.merge("id" => "bramble-17", "inputs" => -1)))
    expect(page).to have_css("[role=dialog] li", text: /inputs/)
    attach_file("Profile file", written("good.json", data.merge("id" => "bramble-12", "name" => "Bramble 12", "inputs" => 12)))
    expect(page).to have_css("[role=dialog] li", text: "Bramble 12")
    within("[role=dialog]") { click_button("Close") }
    click_button("Add box on link B")
    find("[role=menuitem]", text: "Bramble 12").click
    expect(page).to have_css("[data-device=c]", text: "in 1–12")
  ensure
    application.fresh
    Net::HTTP.start("127.0.0.1", application.port) { |http| http.delete("/api/profiles/bramble-12", "content-type" => "application/json") }
  end

  def written(name, data) = File.join(application.home, name).tap { |path| File.write(path, JSON.generate(data)) }

  it "shows a change made at the desk within a second, and brings plan and desk into step both ways" do
    open_place("rig")
    hand("set", "strip/4/gain", "20")
    expect(page).to have_css("header button", text: "Desk: 1 difference")
    desk_dialog
    expect(page).to have_css("[role=dialog] tr", text: /Channel 4 Fiddle.*preamp gain.*31 dB.*20 dB/m)
    click_button("Read 1 setting from the desk into the plan")
    settle("the plan") { setting("channel", 4)["gain"] == 20 }
    hand("set", "strip/4/gain", "25")
    copies = all(:button, "Restore…").size
    click_button("Send 1 setting to the desk")
    expect(page).to have_css("[role=alert]", text: "Desk updated and verified")
    settle("in step") { application.get("/api/state")["desk"]["apart"] == 0 }
    expect(page).to have_button("Restore…", count: copies + 1) # the copy of what was overwritten, which stands first
    find(:button, "Restore…", match: :first).click
    within("[role=dialog]", text: /Restore copy/) { click_button("Apply 1 setting to the desk") }
    expect(page).to have_css("[role=alert]", text: "Desk restored from the copy.")
    expect(application.get("/api/desk")["differences"]).to match([include("path" => "channel/4/gain", "desk" => "25 dB")])
  end

  def hand(*words)
    out, err, status = Open3.capture3(File.join(Loomshuttle::ROOT, "bin", "desk"), *words, "--port", application.port.to_s)
    raise "#{out}#{err}" unless status.success?
  end
end
