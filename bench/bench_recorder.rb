# frozen_string_literal: true

# A recorder of its own with a sender of packets, for benchmarks.
module BenchRecorder
  module_function

  # @param port [Integer] of the first stream
  # @return [Array<Loomshuttle::Formats::Sdp::Stream>] of eight lanes each
  def streams(lanes, port)
    (1..lanes).each_slice(8).with_index.map do |slice, at|
      Loomshuttle::Formats::Sdp::Stream.new(host: "127.0.0.1", port: port + (2 * at), lanes: 8, first: slice.first, rate: 48_000, payload_type: 97)
    end
  end

  # @return [Integer] process id of a recorder that knows all lanes as armed tracks
  def start(home, lanes, port)
    { "sends" => streams(lanes, port), "returns" => streams(8, port) }.each do |way, list|
      File.write(File.join(home, "card-#{way}.sdp"), Loomshuttle::Formats::Sdp.write("bench", list, session: 1))
    end
    pid = spawn(RbConfig.ruby, File.join(__dir__, "..", "processes", "recorder.rb"), home)
    sleep(0.1) until File.exist?(File.join(home, "recorder.sock"))
    call(home, "configure", tracks: (1..lanes).map { |n| { number: n, name: "Lane #{n}", inputs: [n], outputs: [], armed: true } })
    pid
  end

  # Starts the sender, and a capture once its packets arrive.
  # @return [Integer] process id of the sender
  def capture(home, lanes, port, seconds)
    sender = send_lanes(lanes, port, seconds)
    sleep(0.1) until call(home, "status")["clock"]
    call(home, "capture.start", name: "bench")
    sender
  end

  def send_lanes(lanes, port, seconds) = spawn(RbConfig.ruby, File.join(__dir__, "sender.rb"), lanes.to_s, port.to_s, seconds.to_s)

  # @return [Object] what the recorder answers
  def call(home, method, params = {})
    socket = UNIXSocket.new(File.join(home, "recorder.sock"))
    socket.puts(JSON.generate({ jsonrpc: "2.0", id: 1, method: method, params: params }))
    JSON.parse(socket.gets)["result"]
  ensure
    socket&.close
  end
end
