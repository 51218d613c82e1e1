# frozen_string_literal: true

# Memory over a long night on the virtual clock: bench/soak.rb [HOURS]. Three processes: captures while the desk restarts every hour, songs
# whose clock jumps every hour, and a viewer that never reads. Memory of each at the start, after an hour and at the end.
require_relative "support"
require "socket"
Loomshuttle.load_parts(:core, :runtime, :recorder, :player, :web)
require "rspec/core"
require_relative "../spec/support/song_help"
require_relative "../spec/support/song_folder"

HOURS = (ARGV.first || 12).to_i
L = Loomshuttle

def resident
  GC.start
  File.read("/proc/self/status")[/VmRSS:\s*(\d+)/, 1].to_i / 1024
end

# Two lanes, a quarter of an hour a take; each is thrown away when the next one is over, so that the disk does not fill.
def recorder(folder)
  stream = L::Formats::Sdp::Stream.new(host: "virtual", port: 1, lanes: 2, first: 1, rate: 48_000, payload_type: 97)
  sound, sent, start = Array.new(97) { Random.bytes(48 * 2 * 3) }, 0, 0
  unit = L::Recorder::Unit.new(sends: [stream], returns: [stream], takes: File.join(folder, "takes"), settings: File.join(folder, "recorder.json"), now: -> { sent / 1000.0 }) { |*| nil }
  unit.on_meters = unit.on_second = ->(*) {}
  unit.configure(tracks: [1, 2].map { |n| { "number" => n, "name" => "Lane #{n}", "inputs" => [n], "outputs" => [n], "armed" => true } })
  run = lambda do |seconds|
    (seconds * 1000).times do
      unit.engine.receive(0, L::Formats::Rtp.pack(sequence: sent % 65_536, timestamp: (start + (sent * 48)) % (1 << 32), source: 7, payload: sound[sent % 97]))
      sent += 1
    end
  end
  run.call(2)
  yield 0
  HOURS.times do |hour|
    4.times do |quarter|
      unit.capture_start(name: "Hour #{hour} #{quarter}")
      run.call(450)
      start += 1_000_000_000 if quarter == 2 # the desk restarts in the middle of a take
      run.call(449)
      take = unit.capture_stop
      unit.shelf.discard(take: take["id"])
      unit.shelf.empty_bin
      run.call(1)
    end
    yield hour + 1
  end
end

# A song around and around; its clock goes back, or far ahead, every hour.
def player(folder)
  streams = [L::Formats::Sdp::Stream.new(host: "127.0.0.1", port: 9, lanes: 8, first: 1, rate: 48_000, payload_type: 97)]
  id = SongFolder.write(folder, { "Strings" => SongFolder.noise(48_000 * 20, 5) })
  now, time = 0.0, 5_000_000
  unit = L::Player::Unit.new(rate: 48_000, streams: streams, library: L::Player::Library.new(folder, 48_000), config: L::Player::Config.new(nil), now: -> { now }) { |*| nil }
  unit.configure(items: [{ "key" => 1, "song" => id }], roles: [{ "name" => "Strings", "kind" => "parts", "outputs" => [1] }])
  run = lambda do |seconds|
    (seconds * 200).times do |step|
      now += 0.005
      time += 240
      unit.fill if (step % 20).zero?
      unit.hear(L::Formats::Rtp.pack(sequence: 0, timestamp: time % (1 << 32), source: 1, payload: "\0" * 3))
    end
  end
  run.call(1)
  yield 0
  HOURS.times do |hour|
    120.times do
      unit.load(item: 1)
      unit.command("play")
      run.call(29)
      unit.command("stop")
      run.call(1)
    end
    time += hour.even? ? -4_000_000 : 900_000_000
    run.call(1)
    yield hour + 1
  end
end

# Twenty messages a second to a viewer that never reads, who comes again whenever he is ended.
def viewer(_folder)
  hub = L::Web::LiveHub.new.tap(&:start)
  ours = theirs = nil
  yield 0
  HOURS.times do |hour|
    72_000.times do |n|
      if hub.size.zero?
        [ours, theirs].compact.each { |socket| socket.close unless socket.closed? }
        ours, theirs = Socket.pair(:UNIX, :STREAM)
        hub.add(theirs)
      end
      hub.tell("meters", { "levels" => [n] * 64 })
      Thread.pass if (n % 50).zero?
    end
    yield hour + 1
  end
end

rows = %i[recorder player viewer].map do |part|
  Dir.mktmpdir("soak") do |folder|
    out, back = IO.pipe
    pid = fork do
      began = Bench.now
      at = {}
      send(part, folder) { |hour| at[hour] = resident if [0, 1, HOURS].include?(hour) }
      back.puts(JSON.generate([part, *at.values_at(0, 1, HOURS), (Bench.now - began).round]))
    end
    back.close
    Process.wait(pid)
    JSON.parse(out.read)
  end
end
Bench.machine
Bench.table([["part, #{HOURS} h", "MiB at the start", "after an hour", "at the end", "took, s"], *rows])
