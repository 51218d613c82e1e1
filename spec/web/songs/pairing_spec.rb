# frozen_string_literal: true

# Players are paired at the recording computer itself; whoever else looks at the screens sees no code and makes no player call anybody.
RSpec.describe "Pairing players", :folder do
  include_context "with the API"

  let(:status) { { "state" => "ready", "code" => "123456", "followers" => [] } }

  before { allow(control.order).to receive_messages(status: status, command: status) }

  def from(address) = env("REMOTE_ADDR", address)
  def code = ask("/api/player")["player"]["code"]

  it "shows the code at the computer itself, and nowhere else" do
    expect(code).to eq("123456")
    from("192.168.1.20")
    expect(code).to be_nil
    from("::1")
    expect(code).to eq("123456")
    from("not an address")
    expect(code).to be_nil
  end

  it "lets nobody else make the player follow another" do
    to = { command: "follow", to: { host: "127.0.0.1", port: 4055, code: "123456" } }
    tell("/api/player", to)
    from("192.168.1.20")
    expect(tell("/api/player", to, 403)["error"]).to include("where" => "follow", "message" => /only possible on the recording computer/)
    expect(control.order).to have_received(:command).once
    tell("/api/player", { command: "stop" })
  end

  it "tells no viewer the code" do
    told = []
    allow(control.hub).to receive(:tell) { |name, data, **| told << data if name == "player" }
    control.order.send(:heard, status)
    expect(told).to match([include("state" => "ready")])
    expect(told.first).not_to have_key("code")
  end

  it "counts what a proxy passes on as from elsewhere" do
    seen = []
    guard = Loomshuttle::Web::Guard.new(->(env) { seen << env[Loomshuttle::Web::Guard::HERE] and [200, {}, []] }, hosts: ["127.0.0.1"], proxy: "127.0.0.1")
    guard.call({ "REQUEST_METHOD" => "GET", "PATH_INFO" => "/", "HTTP_HOST" => "127.0.0.1", "REMOTE_ADDR" => "127.0.0.1", "rack.url_scheme" => "http" })
    expect(seen).to eq([false])
  end
end
