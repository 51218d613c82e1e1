# frozen_string_literal: true

# What the recorder holds and loses while others send to its ports: flood.rb [SECONDS] [LANES]. Beside it the same without a flood.
require_relative "support"
require_relative "bench_recorder"

Loomshuttle.load_parts(:core)
SECONDS = (ARGV.shift || 30).to_i
LANES = (ARGV.shift || 64).to_i
PORT = 30_400

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

# @return [Array] share of a core, MiB, packets of others, samples lost, breaks
def measured(home, pid)
  before = Bench.processor_seconds(pid)
  sleep(SECONDS)
  share, memory = (Bench.processor_seconds(pid) - before) / SECONDS, resident(pid)
  status, take = BenchRecorder.call(home, "status"), BenchRecorder.call(home, "capture.stop")
  [share.round(2), memory, status["counts"]["foreign"], take["gaps_total"]["frames"], take["breaks"].size]
end

def run(flooded)
  Dir.mktmpdir do |home|
    pid = BenchRecorder.start(home, LANES, PORT)
    sender = BenchRecorder.capture(home, LANES, PORT, SECONDS + 8)
    other = flood if flooded
    measured(home, pid)
  ensure
    [other, pid, sender].compact.each { |one| Process.kill(:TERM, one) && Process.wait(one) }
  end
end

Bench.machine
Bench.table([["", "share of a core", "MiB", "packets of others", "samples lost", "breaks"], ["alone", *run(false)], ["in a flood", *run(true)]])
