# frozen_string_literal: true

require "zlib"

RSpec.describe Loomshuttle::Web::Compression, :folder do
  include_context "with the API"

  def away = { "REMOTE_ADDR" => "10.0.0.7", "HTTP_ACCEPT_ENCODING" => "gzip, br" }
  def headers = last_response.headers

  it "sends what was not changed once only" do
    get("/api/show")
    mark = headers.fetch("etag")
    get("/api/show", {}, "HTTP_IF_NONE_MATCH" => mark)
    expect([last_response.status, last_response.body]).to eq([304, ""])
    tell("/api/edits", settings: { "channel/1/name" => "Tuba" })
    get("/api/show", {}, "HTTP_IF_NONE_MATCH" => mark)
    expect([last_response.status, JSON.parse(last_response.body)["version"], headers["etag"] == mark]).to eq([200, 2, false])
  end

  it "compresses what goes over the network, and on this computer what is asked for the first time" do
    get("/api/show", {}, away)
    sent = last_response.body
    expect(headers).to include("content-encoding" => "gzip", "vary" => /Accept-Encoding/)
    here = away.merge("REMOTE_ADDR" => "127.0.0.1")
    get("/api/show", {}, here)
    expect(headers).to include("content-encoding" => "gzip")
    get("/api/show", {}, here.merge("HTTP_IF_NONE_MATCH" => '"another one"'))
    expect(headers).not_to include("content-encoding")
    expect(Zlib.gunzip(sent).force_encoding("UTF-8")).to eq(last_response.body)
    expect(sent.bytesize).to be < last_response.body.bytesize / 5
    get("/api/show", {}, away.except("HTTP_ACCEPT_ENCODING"))
    expect(JSON.parse(last_response.body)["version"]).to eq(1)
  end

  it "sends built files compressed, to be kept for good" do
    stub_const("Loomshuttle::Web::App::UI", @folder)
    FileUtils.mkdir_p(File.join(@folder, "assets"))
    { "index-1.js" => "const one = 1;\n" * 500, "a.woff2" => "w" * 4000 }.each { |name, text| File.write(File.join(@folder, "assets", name), text) }
    get("/assets/index-1.js", {}, away.merge("REMOTE_ADDR" => "127.0.0.1"))
    expect(headers).to include("content-encoding" => "gzip", "cache-control" => /immutable/, "content-type" => /javascript/)
    expect(Zlib.gunzip(last_response.body)).to eq("const one = 1;\n" * 500)
    get("/assets/a.woff2", {}, away)
    expect([headers["content-encoding"], last_response.body.bytesize]).to eq([nil, 4000])
  end
end
