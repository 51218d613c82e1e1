# frozen_string_literal: true

RSpec.describe Loomshuttle::Web::ShowArchive, :folder do
  include_context "with the API"

  let(:box) { CoreHelp::CATALOG.fetch("box", "bramble-16").to_json_data.merge("id" => "nettle-24", "name" => "Nettle 24", "inputs" => 24) }

  def remove(path, status = 200) = delete(path, "{}", "CONTENT_TYPE" => "application/json") && answer(status)

  it "makes shows on a desk and like another one, opens and deletes them" do
    tell("/api/flip", to: "take", channels: [1])
    empty = tell("/api/shows", about: { name: "Empty", date: "2026-07-01" }, desk: "alder-40")["id"]
    copy = tell("/api/shows", about: { name: "Like the first" }, like: 1, open: true, on_take: "keep")["id"]
    expect(show).to include("id" => copy, "about" => { "name" => "Like the first" })
    expect(show["channels"][0].values_at("name", "position")).to eq(["Source 1", "stage"]) # a new engagement starts on stage
    expect(ask("/api/shows").map { |one| one.values_at("id", "open") }).to eq([[copy, true], [empty, false], [1, false]])
    expect(remove("/api/shows/#{copy}", 422)["error"]["message"]).to include("open show cannot be deleted")
    tell("/api/shows/1/open")
    remove("/api/shows/#{copy}")
    tell("/api/shows/1/about", about: { name: "Renamed", act: "Nine" })
    expect(show["about"]).to eq("name" => "Renamed", "act" => "Nine")
    expect(show["channels"][0]["position"]).to eq("take")
  end

  it "gives the whole show as a file, and takes it back as another show" do
    tell("/api/edits", settings: { "channel/1/name" => "Tuba" })
    file = ask("/api/papers/show.json")
    expect(last_response.headers["content-disposition"]).to eq("attachment; filename*=UTF-8''Test.json")
    id = tell("/api/shows", file: file, open: true)["id"]
    expect(show).to include("id" => id, "version" => 1, "about" => { "name" => "Test (2)" })
    expect(ask("/api/compare?one=now&other=show/1")["changes"]).to eq([])
    tell("/api/shows", file: file)
    tell("/api/shows", file: file, about: { name: "Test" })
    expect(ask("/api/shows").map { |one| one["about"]["name"] }).to eq(["Test", "Test (3)", "Test (2)", "Test"])
  end

  it "refuses a faulty file whole, with the place of each fault" do
    file = ask("/api/papers/show.json")
    wrong = file.merge("settings" => file["settings"].merge("channel/1/gain" => "loud", "nonsense" => 1))
    error = tell("/api/shows", { file: wrong }, 422)["error"]
    expect(error["faults"].map { |fault| fault["where"] }).to contain_exactly("/settings/channel~11~1gain", "/settings/nonsense")
    wrong = file.merge("settings" => file["settings"].merge("channel/1/gain" => 99, "send/3/source" => "desk/ch/77"))
    error = tell("/api/shows", { file: wrong }, 422)["error"]
    expect(error["faults"].map { |fault| fault["where"] }).to contain_exactly("/settings/channel~11~1gain", "/settings/send~13~1source")
    expect(ask("/api/shows").size).to eq(1)
  end

  it "brings in a device profile, uses it at once, and lets it go when nobody stands on it" do
    expect(tell("/api/profiles", profile: box)).to eq("id" => "nettle-24")
    tell("/api/steps", kind: "desk", options: { desk: "alder-40" })
    tell("/api/steps", kind: "add_box", options: { profile: "nettle-24", port: "a" })
    expect(ask("/api/rig")["boxes"].first).to include("name" => "Nettle 24", "inputs" => 24)
    expect(remove("/api/profiles/nettle-24", 422)["error"]["message"]).to include("used by a show")
    expect(tell("/api/profiles", { profile: box.merge("inputs" => 20) }, 422)["error"]["message"]).to include("would change under it")
    tell("/api/steps", kind: "remove_box", options: { box: "a" })
    remove("/api/profiles/nettle-24")
    expect(remove("/api/profiles/alder-40", 422)["error"]["message"]).to include("ships with")
  end

  it "refuses a faulty profile with the place of each fault" do
    error = tell("/api/profiles", { profile: box.merge("inputs" => "many", "colour" => "red") }, 422)["error"]
    expect(error["faults"]).to contain_exactly({ "where" => "/inputs", "message" => "must be a whole number" }, { "where" => "/colour", "message" => "is not known here" })
    desk = JSON.parse(JSON.generate(CoreHelp::CATALOG.fetch("desk", "alder-40").to_json_data)).merge("id" => "own")
    desk["patching"].delete("take_block")
    expect(tell("/api/profiles", { profile: desk }, 422)["error"]).to include("where" => "/flip", "message" => /flips by block, but take sources have no blocks/)
    expect(tell("/api/profiles", { profile: box.merge("id" => "alder-40") }, 422)["error"]["message"]).to include("ships with Loomshuttle")
  end
end

RSpec.describe "Papers", :folder do
  include_context "with the API"

  let(:first_show) do
    set(straight(20, from: chained), "channel/3/name" => "Fiddle Ø “lead”", "channel/3/mic" => "clip-on", "channel/3/phantom" => true, "box/a/spot" => "left",
                                     "output/15/source" => "desk/main/l")
  end

  it "prints a patch sheet that pdftotext reads back: boxes by socket, desk by channel, recorder by track" do
    get("/api/papers/sheet.pdf")
    expect([last_response.status, last_response.headers["content-type"]]).to eq([200, "application/pdf"])
    path = File.join(@folder, "sheet.pdf")
    File.binwrite(path, last_response.body)
    text = Tools.run("pdftotext", "-layout", path, "-").gsub(/ {2,}/, " | ")
    expect(text).to include("Box A Bramble 16, stage left, link A, lanes 1 to 16", "A 3 | 3 | Fiddle Ø “lead” | clip-on", "Desk by channel Alder 40",
                            "3 | Fiddle Ø “lead” | Box A in 3 | 0 dB").or include("+0 dB")
    expect(text).to include("Outputs", "Main L", "Box B out 7", "Recorder by track", "20 | Source 20 | mono | 20")
    expect(Tools.run("pdfinfo", path)).to match(/Title:\s+Patch sheet, Test/).and match(/Page size:\s+595.28 x 841.89 pts \(A4\)/)
  end

  it "writes the input list as CSV that reads back the same" do
    get("/api/papers/inputs.csv")
    expect(last_response.headers["content-type"]).to include("text/csv")
    seen = tell("/api/steps/preview", kind: "input_list", options: { text: last_response.body.dup.force_encoding("UTF-8") })
    expect(seen.values_at("changes", "problems")).to eq([[], []])
  end
end
