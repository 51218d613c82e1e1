# frozen_string_literal: true

# All viewers in one process: sockets that are only read. Gives, for each version of the show, when the last of them heard of it.
class CrewViewers
  def initialize(port, count)
    @heard, @bytes = Hash.new { |all, version| all[version] = [] }, 0
    @rests = Array.new(count) { connect(port) }.to_h { |socket| [socket, +""] }
  end

  def run(seconds)
    last = Bench.now + seconds
    while Bench.now < last
      ready, = IO.select(@rests.keys, nil, nil, 0.5)
      ready&.each { |socket| read(socket) }
    end
    { "viewers" => @rests.size, "bytes" => @bytes, "heard" => @heard.transform_values { |times| [times.size, times.max] } }
  end

  private

  def connect(port)
    TCPSocket.new("127.0.0.1", port).tap { |socket| socket.write("GET /api/live HTTP/1.1\r\nHost: 127.0.0.1:#{port}\r\n\r\n") }
  end

  def read(socket)
    bytes = socket.read_nonblock(65_536, exception: false)
    return @rests.delete(socket)&.then { socket.close } if bytes.nil?
    return if bytes == :wait_readable

    @bytes += bytes.bytesize
    *whole, rest = (@rests[socket] << bytes).split("\n\n", -1)
    @rests[socket] = rest || +""
    whole.each { |event| @heard[event[/"version":(\d+)/, 1].to_i] << Bench.now if event.start_with?("event: show") }
  end
end
