# frozen_string_literal: true

# A foot on real sockets and on what a raw MIDI device is: a file that bytes come from.
RSpec.describe Loomshuttle::Player::FootSwitch, :folder do
  let(:now) { [100.0] }
  let(:done) { [] }
  let(:config) { Loomshuttle::Player::Config.new(nil) }
  let(:port) { Tools.free_udp_ports }
  let(:pipe) { File.join(@folder, "midiC9D0").tap { |path| File.mkfifo(path) } }
  let(:unit) do
    done = self.done
    Class.new do
      define_method(:go) { |waiting: true| done << (waiting ? "go, waiting" : "go") }
      define_method(:command) { |what, **with| done << [what, *with.values].join(" ") }
    end.new
  end
  let(:foot) { described_class.new(unit, config, now: -> { now.first }, port: port, devices: [pipe]) }

  after { foot.stop }

  def oscsend(*words) = Tools.run("oscsend", "127.0.0.1", port, *words)

  # The messages are sent by liblo's oscsend.
  it "does what OSC says when the foot comes down, and nothing when it is lifted" do
    foot
    oscsend("/go", "f", "1")
    oscsend("/go", "f", "0")
    oscsend("/around")
    oscsend("/leave", "i", "1")
    oscsend("/strange", "i", "1")
    UDPSocket.new.send("no OSC", 0, "127.0.0.1", port)
    5.times { foot.turn }
    expect(done).to eq(["go", "around true", "around false"])
  end

  it "stops when it is held, or pressed twice, and never at once" do
    foot
    oscsend("/stop", "f", "1")
    foot.turn
    now[0] += 0.5
    foot.turn
    expect(done).to eq([])
    now[0] += 0.5
    foot.turn
    expect(done).to eq(["stop"])
    now[0] += 10
    [1, 0].each { |down| oscsend("/stop", "i", down.to_s) }
    foot.turn
    now[0] += 0.5
    oscsend("/stop", "i", "1")
    foot.turn
    expect(done).to eq(%w[stop stop])
  end

  it "learns a pedal: tells what it heard, and does what was chosen for it" do
    config.change("foot" => { "midi" => "midiC9D0", "keys" => {} })
    cable = File.open(pipe, "r+b").tap { |file| file.sync = true }
    foot.turn
    cable.write([0xb0, 64, 127].pack("C*"))
    foot.turn
    expect(foot.status).to include("midi" => "midiC9D0", "devices" => include("midiC9D0"), "last" => "control 64 ch 1", "problem" => nil)
    expect(done).to eq([])
    config.change("foot" => { "midi" => "midiC9D0", "keys" => { "control 64 ch 1" => "go" } })
    cable.write([0xb0, 64, 0, 64, 127].pack("C*"))
    foot.turn
    expect(done).to eq(["go"])
  ensure
    cable&.close
  end

  it "says that a device has gone, and takes it again when it is back" do
    config.change("foot" => { "midi" => "midiC9D0", "keys" => { "note 36 ch 1" => "go" } })
    cable = File.open(pipe, "r+b")
    foot.turn
    cable.close
    Tools.wait_until(5, "the end") { foot.turn || foot.status["problem"] }
    expect(foot.status["problem"]).to eq("The MIDI device midiC9D0 has gone.")
    cable = File.open(pipe, "r+b").tap { |file| file.sync = true }
    now[0] += 3
    foot.turn
    cable.write([0x90, 36, 100].pack("C*"))
    foot.turn
    expect([foot.status["problem"], done]).to eq([nil, ["go"]])
  ensure
    cable&.close
  end

  it "opens nothing that is not on the list of devices" do
    config.change("foot" => { "midi" => "passwd", "keys" => {} })
    foot.turn
    expect(foot.status["problem"]).to eq("The MIDI device passwd is not there.")
  end

  describe "from the network" do
    def hear(from, sender)
      foot = described_class.new(unit, config, now: -> { now.first }, port: Tools.free_udp_ports, from: from)
      osc = foot.instance_variable_get(:@osc)
      bound = osc.local_address.ip_address
      messages = [[Loomshuttle::Formats::Osc.pack("/go"), ["AF_INET", 5, sender, sender]], :wait_readable]
      allow(osc).to receive(:recvfrom_nonblock) { messages.shift }
      allow(IO).to receive(:select).and_return([[osc]])
      foot.turn
      [bound, done.size]
    ensure
      foot&.stop
    end

    it "is heard on loopback alone, unless addresses are named, and then from those" do
      expect(hear([], "127.0.0.1")).to eq(["127.0.0.1", 1])
      expect(hear(["192.168.1.20"], "192.168.1.20")).to eq(["0.0.0.0", 2])
      expect(hear(["192.168.1.20"], "192.168.1.21")).to eq(["0.0.0.0", 2])
    end
  end
end
