# frozen_string_literal: true

# Processor time and losses of capturing 16 to 128 lanes, metered, one 24-bit file a lane, beside GStreamer doing the
# same with the same streams: capture.rb [SECONDS] [LANES...]
require_relative "support"

Loomshuttle.load_parts(:core)
SECONDS = (ARGV.shift || 60).to_i
LANES = ARGV.empty? ? [16, 32, 64, 128] : ARGV.map(&:to_i)
PORT = 30_000

def streams(lanes)
  (1..lanes).each_slice(8).with_index.map do |slice, at|
    Loomshuttle::Formats::Sdp::Stream.new(host: "127.0.0.1", port: PORT + (2 * at), lanes: 8, first: slice.first, rate: 48_000, payload_type: 97)
  end
end

def send_lanes(lanes) = spawn(RbConfig.ruby, File.join(__dir__, "sender.rb"), lanes.to_s, PORT.to_s, (SECONDS + 6).to_s)

# Share of a core over SECONDS, from three seconds after the start.
def share_of_core(pid)
  sleep(3)
  before = Bench.processor_seconds(pid)
  sleep(SECONDS)
  (Bench.processor_seconds(pid) - before) / SECONDS
end

def call(home, method, params = {})
  socket = UNIXSocket.new(File.join(home, "recorder.sock"))
  socket.puts(JSON.generate({ jsonrpc: "2.0", id: 1, method: method, params: params }))
  JSON.parse(socket.gets)["result"]
ensure
  socket&.close
end

def ours(lanes, home)
  { "sends" => streams(lanes), "returns" => streams(8) }.each { |which, list| File.write(File.join(home, "card-#{which}.sdp"), Loomshuttle::Formats::Sdp.write("bench", list, session: 1)) }
  pid = spawn(RbConfig.ruby, File.join(__dir__, "..", "processes", "recorder.rb"), home)
  sleep(0.1) until File.exist?(File.join(home, "recorder.sock"))
  call(home, "configure", tracks: (1..lanes).map { |n| { number: n, name: "Lane #{n}", inputs: [n], outputs: [], armed: true } })
  call(home, "meters", subscribe: true)
  sender = send_lanes(lanes)
  sleep(0.1) until call(home, "status")["clock"]
  call(home, "capture.start", name: "bench")
  share = share_of_core(pid)
  take = call(home, "capture.stop")
  [share, take["gaps"].sum { |gap| gap["frames"] }, take["frames"]]
ensure
  stop(pid, sender)
end

def gstreamer(lanes, home)
  caps = "application/x-rtp,media=audio,clock-rate=48000,encoding-name=L24,channels=8,payload=97"
  parts = streams(lanes).each_with_index.flat_map do |stream, at|
    ["udpsrc", "port=#{stream.port}", "buffer-size=8388608", "caps=#{caps}", "!", "rtpjitterbuffer", "latency=20", "!", "rtpL24depay", "!",
     "audioconvert", "!", "audio/x-raw,format=S32LE", "!", "level", "interval=50000000", "!", "audioconvert", "!", "audio/x-raw,format=S24LE", "!", "deinterleave", "name=d#{at}",
     *(0...8).flat_map { |lane| ["d#{at}.src_#{lane}", "!", "wavenc", "!", "filesink", "async=false", "location=#{File.join(home, "g#{at}-#{lane}.wav")}"] }]
  end
  pid = spawn("gst-launch-1.0", "-q", *parts, out: File::NULL, err: File::NULL)
  sleep(2)
  sender = send_lanes(lanes)
  [share_of_core(pid)]
ensure
  stop(pid, sender)
end

def stop(*pids)
  pids.compact.each do |pid|
    Process.kill(:TERM, pid)
    Process.wait(pid)
  end
end

Bench.machine
rows = [["lanes", "recorder, share of a core", "GStreamer, share of a core", "ratio", "samples lost", "seconds captured"]]
LANES.each do |lanes|
  share, lost, frames = Dir.mktmpdir { |home| ours(lanes, home) }
  peer, = Dir.mktmpdir { |home| gstreamer(lanes, home) }
  rows << [lanes, share.round(2), peer.round(2), (share / peer).round(2), lost, (frames / 48_000.0).round(1)]
end
Bench.table(rows)
