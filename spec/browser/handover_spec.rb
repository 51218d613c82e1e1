# frozen_string_literal: true

# What goes to the next person: papers, presets, comparisons, the journal.
RSpec.describe "The Handover place", type: :feature do
  include_context "with a browser"

  it "keeps a part of the patch, and recalls it with a preview" do
    open_place("handover")
    find("[role=tab]", text: "Presets").click
    fill_in("Preset name", with: "Opening")
    click_button("Save preset")
    expect(page).to have_css("li", text: "Opening")
    application.post("/api/edits", settings: { "channel/1/name" => "Tin bath", "send/4/source" => nil })
    within(find("li", text: "Opening", match: :first)) do
      find("label", text: "Names").click
      click_button("Recall…")
    end
    within("[role=dialog]") do
      expect(page).to have_css("tr", text: /Card send 4.*none.*Channel 4/m)
      expect(page).to have_no_text("Tin bath")
      click_button("Apply 1 change")
    end
    settle("the send") { show["sends"][3]["source"] == "desk/ch/4" }
    expect(setting("channel", 1)["name"]).to eq("Tin bath")
  ensure
    application.get("/api/presets").each do |preset|
      Net::HTTP.start("127.0.0.1", application.port) { |http| http.delete("/api/presets/#{preset['id']}", "content-type" => "application/json") }
    end
  end

  it "compares with an earlier version, and returns to it" do
    application.post("/api/edits", settings: { "channel/1/gain" => 20 }, label: "Louder tuba")
    application.post("/api/edits", settings: { "channel/2/gain" => 20 }, label: "Softer cornet")
    open_place("handover")
    find("[role=tab]", text: "Compare").click
    pick("with", "version 1 of this show")
    expect(page).to have_text("2 settings differ.")
    expect(page).to have_css("tr", text: /Channel 1 Tuba.*preamp gain.*20 dB.*18 dB/m)
    find("[role=tab]", text: "Journal").click
    within(find("ol.handover-journal li", text: "Louder tuba")) { click_button("Restore an earlier version…") }
    click_button("Apply 2 changes")
    settle("the version") { [setting("channel", 1), setting("channel", 2)].map { |one| one["gain"] } == [18, 22] }
    expect(page).to have_css("ol.handover-journal li", text: "Restore version 1")
  end

  it "offers sheet, list and show as files" do
    open_place("handover")
    links = page.all("main a[download]").to_h { |link| [link.text, link[:href]] }
    kinds = links.values.map { |href| Net::HTTP.get_response(URI(href)).then { |answer| [answer.code, answer["content-type"][/\A[^;]+/]] } }
    expect(kinds).to contain_exactly(%w[200 application/pdf], %w[200 text/csv], %w[200 application/json])
  end
end
