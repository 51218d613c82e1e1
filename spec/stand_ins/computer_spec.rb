# frozen_string_literal: true

require "io/wait"
require "socket"

RSpec.describe Loomshuttle::StandIns::Interface::Computer do
  let(:lane) { Loomshuttle::Runtime::PacketSocket.new("127.0.0.1", 0, 24) }
  let(:listener) { UDPSocket.new.tap { |socket| socket.bind("127.0.0.1", 0) } }
  let(:port) { listener.local_address.ip_port }
  let(:computer) { described_class.new("127.0.0.1", port, [lane], now: -> { @now }) }

  before { @now = 10.0 }

  after { [lane, listener].each(&:close) }

  def play = UDPSocket.open { |socket| socket.send("sound", 0, "127.0.0.1", lane.to_io.local_address.ip_port) }
  def arrived = [].tap { |list| computer.take_in(100) { |stream, bytes| list << [stream, bytes] } }

  it "receives the clock, and its lanes are read" do
    computer.tell("12")
    expect(listener.recv(10)).to eq("12")
    play
    expect(arrived).to eq([[0, "sound"]])
  end

  it "is skipped while nobody listens there, and found again soon after somebody does" do
    port
    listener.close
    2.times { computer.tell("nobody") }
    play
    expect(arrived).to eq([])
    again = UDPSocket.new.tap { |socket| socket.bind("127.0.0.1", port) }
    computer.tell("too early")
    @now += 2 * described_class::AGAIN
    computer.tell("13")
    expect(again.wait_readable(5) && again.recv(10)).to eq("13")
    expect(arrived).to eq([[0, "sound"]])
  ensure
    again&.close
  end
end
