# frozen_string_literal: true

RSpec.describe Loomshuttle::Web::Routes::InputLists, :folder do
  include_context "with the API"

  def send_file(bytes)
    put("/api/input-lists/file", bytes, "CONTENT_TYPE" => "application/octet-stream")
    answer
  end

  def looked(list, columns = {})
    tell("/api/steps/preview", { kind: "input_list", options: { text: list["text"], columns: list["known"].merge(columns) } })
  end

  it "asks for columns that nobody knows, and remembers what was said of them, for every list" do
    list = send_file("Nummer,Wer?,48V\n1,Violin,x\n")
    expect(list["columns"].map { |one| one.values_at("header", "key", "field", "samples") }).to eq(
      [["Nummer", "nummer", nil, ["1"]], ["Wer?", "wer", nil, ["Violin"]], ["48V", "48v", "phantom", ["x"]]]
    )
    post_json("/api/steps/preview", { kind: "input_list", options: { text: list["text"] } })
    expect(answer(422)["error"]["message"]).to include("No column is called name")

    tell("/api/input-lists/columns", { columns: { "Wer?" => "name", "nummer" => "channel", "farbe" => "" } })
    again = send_file("WER ;Nummer;Farbe\nViolin;1;rot\n".encode("UTF-16LE"))
    expect(again["columns"].map { |one| one["field"] }).to eq(["name", "channel", nil])
    seen = looked(again)
    expect(seen["parts"].first).to eq("title" => "Violin", "kind" => "renamed", "note" => "channel 1, was Source 1")
    expect(seen["problems"]).to eq([])
  end

  it "reads a workbook as what it shows" do
    list = send_file(File.binread(File.join(Loomshuttle::ROOT, "spec", "lists", "25-workbook.xlsx")))
    expect(looked(list)["parts"].first(3).map { |part| part["title"] }).to eq(["Tuba", "Fiddle", "Tom 12\" rack"])
  end

  it "refuses what cannot be read, and columns that are none" do
    put("/api/input-lists/file", "PK\x03\x04 no more", "CONTENT_TYPE" => "application/octet-stream")
    expect(answer(422)["error"]["message"]).to include("workbook cannot be read")
    post_json("/api/input-lists/columns", { columns: { "x" => "louder" } })
    expect(last_response.status).to eq(400)
  end
end
