# frozen_string_literal: true

# Processor time and losses of capturing 16 to 128 lanes, metered, one 24-bit file a lane, beside GStreamer doing the
# same with the same streams: capture.rb [SECONDS] [LANES...]. Both in turns, three times each; the least of each counts, since whatever else
# happens on a machine only adds.
require_relative "support"
require_relative "bench_recorder"

Loomshuttle.load_parts(:core)
SECONDS = (ARGV.shift || 60).to_i
LANES = ARGV.empty? ? [16, 32, 64, 128] : ARGV.map(&:to_i)
PORT, ROUNDS = 30_000, 3

# Share of a core over SECONDS, from three seconds after the start.
def share_of_core(pid)
  sleep(3)
  before = Bench.processor_seconds(pid)
  sleep(SECONDS)
  (Bench.processor_seconds(pid) - before) / SECONDS
end

def ours(lanes, home)
  pid = BenchRecorder.start(home, lanes, PORT)
  BenchRecorder.call(home, "meters", subscribe: true)
  sender = BenchRecorder.capture(home, lanes, PORT, SECONDS + 6)
  share = share_of_core(pid)
  take = BenchRecorder.call(home, "capture.stop")
  [share, take["gaps"].sum { |gap| gap["frames"] }, take["frames"]]
ensure
  stop(pid, sender)
end

def gstreamer(lanes, home)
  caps = "application/x-rtp,media=audio,clock-rate=48000,encoding-name=L24,channels=8,payload=97"
  parts = BenchRecorder.streams(lanes, PORT).each_with_index.flat_map do |stream, at|
    ["udpsrc", "port=#{stream.port}", "buffer-size=8388608", "caps=#{caps}", "!", "rtpjitterbuffer", "latency=20", "!", "rtpL24depay", "!",
     "audioconvert", "!", "audio/x-raw,format=S32LE", "!", "level", "interval=50000000", "!", "audioconvert", "!", "audio/x-raw,format=S24LE", "!", "deinterleave", "name=d#{at}",
     *(0...8).flat_map { |lane| ["d#{at}.src_#{lane}", "!", "wavenc", "!", "filesink", "async=false", "location=#{File.join(home, "g#{at}-#{lane}.wav")}"] }]
  end
  pid = spawn("gst-launch-1.0", "-q", *parts, out: File::NULL, err: File::NULL)
  sleep(2)
  sender = BenchRecorder.send_lanes(lanes, PORT, SECONDS + 6)
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

def listed(shares) = shares.map { |share| share.round(3) }.join(", ")

Bench.machine
rows = [["lanes", "recorder, share of a core", "GStreamer, share of a core", "ratio", "samples lost", "seconds captured"]]
LANES.each do |lanes|
  rounds = Array.new(ROUNDS) { [Dir.mktmpdir { |home| ours(lanes, home) }, Dir.mktmpdir { |home| gstreamer(lanes, home) }] }
  shares, peers = rounds.map { |own, _| own.first }, rounds.map { |_, peer| peer.first }
  lost, frames = rounds.sum { |(_, gone, _), _| gone }, rounds.sum { |(_, _, count), _| count }
  rows << [lanes, listed(shares), listed(peers), (shares.min / peers.min).round(2), lost, (frames / 48_000.0).round(1)]
end
Bench.table(rows)
