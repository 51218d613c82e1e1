# frozen_string_literal: true

require "socket"

# Packets leave in the order and size in which they were given, whether the system cuts them or not.
RSpec.describe Loomshuttle::Runtime::PacketSender do
  let(:receiver) { UDPSocket.new.tap { |socket| socket.bind("127.0.0.1", 0) } }
  let(:sender) { described_class.new("127.0.0.1", receiver.addr[1]) }

  after { [receiver, sender].each(&:close) }

  def arrived
    list = []
    loop do
      bytes = receiver.recv_nonblock(9000, exception: false)
      return list if bytes == :wait_readable

      list << bytes
    end
  end

  def packets(count, size) = Array.new(count) { |nth| nth.chr * size }

  it "sends several packets of one size at once, one datagram each" do
    sender.send(packets(10, 1164).join, 1164)
    sender.send(packets(5, 300).join, 300)
    sender.send("one")
    sender.send("y" * 2000)
    expect(arrived).to eq([*packets(10, 1164), *packets(5, 300), "one", "y" * 2000])
  end

  it "sends more than one call takes" do
    [[100, 20], [12, 5764]].each do |count, size|
      sender.send(packets(count, size).join, size)
      expect(arrived).to eq(packets(count, size))
    end
  end

  it "uses one system call for many packets" do
    socket = sender.instance_variable_get(:@socket)
    allow(socket).to receive(:write_nonblock).and_call_original
    sender.send(packets(10, 1164).join, 1164)
    expect(socket).to have_received(:write_nonblock).once
  end

  it "sends them one by one where the system cuts none" do
    socket = sender.instance_variable_get(:@socket)
    allow(socket).to receive(:setsockopt).and_raise(Errno::ENOPROTOOPT)
    2.times { sender.send(packets(3, 100).join, 100) }
    expect(arrived).to eq(packets(3, 100) * 2)
    expect(socket).to have_received(:setsockopt).once
  end

  it "goes on one by one where the way out refuses what is to be cut" do
    socket = sender.instance_variable_get(:@socket)
    allow(socket).to(receive(:write_nonblock).and_wrap_original { |write, bytes, **with| bytes.bytesize > 100 ? raise(Errno::EINVAL) : write.call(bytes, **with) })
    2.times { sender.send(packets(3, 100).join, 100) }
    expect(arrived).to eq(packets(3, 100) * 2)
  end

  it "is heard by the one who comes back, from the first packet on" do
    port = receiver.addr[1]
    sender.send("a")
    receiver.close
    3.times { sender.send("nobody is there") }
    back = UDPSocket.new.tap { |socket| socket.bind("127.0.0.1", port) }
    sender.send("b")
    expect(back.wait_readable(5) && back.recv(100)).to eq("b")
  ensure
    back&.close
  end
end
