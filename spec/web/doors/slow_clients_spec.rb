# frozen_string_literal: true

require "puma"
require "puma/server"

# A real Puma on loopback, and clients that send a byte now and then.
RSpec.describe Loomshuttle::Web::SlowClients do
  let(:server) do
    described_class.install
    app = ->(env) { [200, { "content-type" => "text/plain" }, [env["rack.input"].read.size.to_s]] }
    Puma::Server.new(app, nil, { min_threads: 1, max_threads: 2, first_data_timeout: 5, log_writer: Puma::LogWriter.null }).tap do |one|
      @port = one.add_tcp_listener("127.0.0.1", 0).addr[1]
      one.run
    end
  end

  before { server }
  after { server.stop(true) }

  def connect = TCPSocket.new("127.0.0.1", @port)

  # Sends a byte for as long as somebody listens. @return [String] the answer
  def drip(socket, text)
    text.each_char do |byte|
      socket.write(byte)
      break if socket.wait_readable(0.05)
    end
    socket.read.to_s
  rescue Errno::EPIPE, Errno::ECONNRESET
    ""
  end

  it "gives a head and a body so long in all, however often a byte comes" do
    stub_const("#{described_class}::HEAD", 0.5)
    stub_const("#{described_class}::BODY", 0.3)
    expect(drip(connect, "GET / HTTP/1.1\r\nHost: x\r\nX-Long: #{'a' * 2000}")).to match(/\A(HTTP.1.1 408|\z)/)
    expect(drip(connect.tap { |one| one.write("POST / HTTP/1.1\r\nHost: x\r\nContent-Length: 2000\r\n\r\n") }, "b" * 2000)).to match(/\A(HTTP.1.1 408|\z)/)
    socket = connect
    socket.write("POST / HTTP/1.1\r\nHost: x\r\nConnection: close\r\nContent-Length: 3\r\n\r\nabc")
    expect(socket.read).to end_with("\r\n\r\n3")
    Tools.wait_until(20, "nobody to wait") { described_class.size == 0 } # rubocop:disable Style/ZeroLengthPredicate
  end

  it "limits the open requests of one address, and forgets those that are over" do
    stub_const("#{described_class}::MOST", 3)
    slow = Array.new(6) { connect.tap { |one| one.write("GET / HTTP/1.1\r\n") } }
    ended = Tools.wait_until(20, "some to be ended") { slow.select { |one| one.wait_readable(0) }.then { |list| list if list.size >= 3 } }
    expect(ended.size).to eq(3)
    (slow - ended).each { |one| one.write("Host: x\r\nConnection: close\r\n\r\n") }
    expect((slow - ended).map { |one| one.read[/\AHTTP.1.1 (\d+)/, 1] }).to eq(%w[200] * 3)
    Tools.wait_until(20, "nobody to wait") { described_class.size == 0 } # rubocop:disable Style/ZeroLengthPredicate
  end
end
