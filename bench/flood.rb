# frozen_string_literal: true

# What the recorder holds and loses while others send to its ports: flood.rb [SECONDS] [LANES]. Beside it the same without a flood.
require_relative "support"

Loomshuttle.load_parts(:core)
SECONDS = (ARGV.shift || 30).to_i
LANES = (ARGV.shift || 64).to_i
PORT = 30_400

def streams(lanes)
  (1..lanes).each_slice(8).with_index.map do |slice, at|
    Loomshuttle::Formats::Sdp::Stream.new(host: "127.0.0.1", port: PORT + (2 * at), lanes: 8, first: slice.first, rate: 48_000, payload_type: 97)
  end
end

def call(home, method, params = {})
  socket = UNIXSocket.new(File.join(home, "recorder.sock"))
  socket.puts(JSON.generate({ jsonrpc: "2.0", id: 1, method: method, params: params }))
  JSON.parse(socket.gets)["result"]
ensure
  socket&.close
end

# Garbage, strangers, and packets with the sender's own number from other times: as many as one process can send.
def flood
  fork do
    socket, random, ends = UDPSocket.new, Random.new(1), Bench.now + SECONDS
    until Bench.now > ends
      bytes = case random.rand(3)
              when 0 then random.bytes(1200)
              when 1 then Loomshuttle::Formats::Rtp.pack(sequence: random.rand(65_536), timestamp: random.rand(1 << 32), source: random.rand(1 << 32), payload: "\1" * 1152)
              else Loomshuttle::Formats::Rtp.pack(sequence: random.rand(65_536), timestamp: random.rand(1 << 32), source: 1, payload: "\1" * 1152)
              end
      socket.send(bytes, 0, "127.0.0.1", PORT + (2 * random.rand(LANES / 8)))
      sleep(0.0002)
    end
  end
end

def resident(pid) = File.read("/proc/#{pid}/status")[/VmRSS:\s+(\d+)/, 1].to_i / 1024

# @return [Integer] process id of a recorder that captures all lanes
def start(home)
  { "sends" => streams(LANES), "returns" => streams(8) }.each { |way, list| File.write(File.join(home, "card-#{way}.sdp"), Loomshuttle::Formats::Sdp.write("bench", list, session: 1)) }
  pid = spawn(RbConfig.ruby, File.join(__dir__, "..", "processes", "recorder.rb"), home)
  sleep(0.1) until File.exist?(File.join(home, "recorder.sock"))
  call(home, "configure", tracks: (1..LANES).map { |n| { number: n, name: "Lane #{n}", inputs: [n], outputs: [], armed: true } })
  pid
end

# @return [Array] share of a core, MiB, packets of others, samples lost, breaks
def measured(home, pid)
  before = Bench.processor_seconds(pid)
  sleep(SECONDS)
  share, memory = (Bench.processor_seconds(pid) - before) / SECONDS, resident(pid)
  status, take = call(home, "status"), call(home, "capture.stop")
  [share.round(2), memory, status["counts"]["foreign"], take["gaps_total"]["frames"], take["breaks"].size]
end

def run(flooded)
  Dir.mktmpdir do |home|
    pid = start(home)
    sender = spawn(RbConfig.ruby, File.join(__dir__, "sender.rb"), LANES.to_s, PORT.to_s, (SECONDS + 8).to_s)
    sleep(0.1) until call(home, "status")["clock"]
    call(home, "capture.start", name: "bench")
    other = flood if flooded
    measured(home, pid)
  ensure
    [other, pid, sender].compact.each { |one| Process.kill(:TERM, one) && Process.wait(one) }
  end
end

Bench.machine
Bench.table([["", "share of a core", "MiB", "packets of others", "samples lost", "breaks"], ["alone", *run(false)], ["in a flood", *run(true)]])
