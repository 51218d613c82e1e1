# frozen_string_literal: true

RSpec.describe Loomshuttle::Runtime::PacketSocket do
  let(:socket) { described_class.new("127.0.0.1", 0, 24) }
  let(:sender) { UDPSocket.new.tap { |one| one.connect("127.0.0.1", socket.to_io.local_address.ip_port) } }

  after { [socket, sender].each(&:close) }

  def send(numbers)
    numbers.each { |n| sender.send(Loomshuttle::Formats::Rtp.pack(sequence: n, timestamp: n, source: 1, payload: "\0".b * 24), 0) }
  end

  def drained(most) = [].tap { |list| socket.drain(most) { |arrived| list << arrived } }.sum { |one| one.is_a?(String) ? 1 : one.count }

  it "hands over all that has arrived, packets and what is none" do
    send(0...70)
    sender.send("no packet", 0)
    send(70...75)
    expect(drained(200)).to eq(76)
    expect(drained(200)).to be_zero
  end

  it "leaves the rest for the next time" do
    send(0...100)
    expect([drained(64), drained(64)]).to eq([64, 36])
  end

  it "does not ask again where nothing more can wait" do
    send(0...10)
    allow(socket).to receive(:read).and_call_original
    drained(200)
    expect(socket).to have_received(:read).once
  end
end
