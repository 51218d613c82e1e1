# frozen_string_literal: true

require "socket"

# Our OSC beside liblo's tools.
RSpec.describe "OSC, with oscsend and oscdump" do
  it "understands what oscsend sends" do
    socket = UDPSocket.new.tap { |one| one.bind("127.0.0.1", 0) }
    Tools.run("oscsend", "127.0.0.1", socket.addr[1], "/set", "isf", "42", "strip/3/gain", "31.5")
    message = Loomshuttle::Formats::Osc.unpack(socket.recv(1000)).first
    expect([message.address, *message.arguments]).to eq(["/set", 42, "strip/3/gain", 31.5])
  ensure
    socket&.close
  end

  it "is understood by oscdump" do
    port = Tools.free_udp_ports
    dump = IO.popen(["oscdump", "-L", port.to_s], err: File::NULL)
    bytes = Loomshuttle::Formats::Osc.pack("/value", 7, "strip/1/label", -3.25, true)
    sender = UDPSocket.new
    feeder = Thread.new { sender.send(bytes, 0, "127.0.0.1", port) && sleep(0.1) while dump }
    line = Tools.wait_until { dump.wait_readable(0.2) && dump.gets }
    expect(line).to match(%r{/value isfT 7 "strip/1/label" -3.25})
  ensure
    feeder&.kill
    Process.kill(:TERM, dump.pid) if dump
    dump&.close
  end

  it "sets the real desk process by oscsend, and the reply is OSC" do
    RunningDesk.with do |desk|
      Tools.run("oscsend", "127.0.0.1", desk.osc_port, "/set", "iss", "5", "strip/9/label", "Whistles")
      expect(desk.ask("/get", "strip/9/label")).to eq("Whistles")
    end
  end
end
