# frozen_string_literal: true

# What playing costs: 16 stereo stems to 16 outputs, as the player makes and sends it, beside SoX and ffmpeg mixing the same stems to
# the same outputs; and how long a song takes to load, and a command until it sounds. Ratios count: bench/player.rb [SECONDS]
require_relative "../loader"
Loomshuttle.load_parts(:core, :runtime, :player)
require "benchmark"
require "open3"
require "socket"
require "tmpdir"

SECONDS = (ARGV.first || 60).to_i
RATE, STEMS, ROUNDS = 48_000, 16, 3
# Timestamp of the first sample.
CLOCK_START = 480_000
L = Loomshuttle

def cpu = Process.clock_gettime(Process::CLOCK_PROCESS_CPUTIME_ID)

def made(folder)
  random = Random.new(3)
  stems = (1..STEMS).map do |number|
    path = File.join(folder, "#{number}.wav")
    bext = L::Formats::Bext.new(description: "", originator: "", reference: "", date: "2026-06-13", time: "20:00:00", time_reference: 0, history: "")
    file = L::Formats::Wav::Writer.new(path, bext: bext, lanes: 2, rate: RATE, bits: 32)
    SECONDS.times { file.write(L::Audio::Pcm24.to_float32((Numo::Int32.from_binary(random.bytes(RATE * 8)) / 4096).reshape(RATE, 2))) }
    file.close
    { "id" => number, "name" => "Stem #{number}", "role" => "Role #{number}", "file" => "#{number}.wav", "lanes" => 2, "frames" => SECONDS * RATE, "sum" => "0" * 64 }
  end
  data = L::Songs::SongFile.check({ "format" => "loomshuttle-song/1", "id" => File.basename(folder), "version" => 1, "rate" => RATE, "frames" => SECONDS * RATE, "name" => "Bench",
                                    "stems" => stems, "click" => { "count_in" => 0 } })
  File.write(File.join(folder, "song.json"), JSON.generate(data))
end

# Each stem to two of the sixteen outputs: stem n to outputs n and n + 1.
def roles = (1..STEMS).map { |n| { "name" => "Role #{n}", "kind" => "parts", "outputs" => [n, (n % STEMS) + 1] } }

def player(root, id)
  @there = UDPSocket.new.tap { |socket| socket.bind("127.0.0.1", 0) } # who is sent to, and reads nothing
  out = L::Runtime::PacketSender.new("127.0.0.1", @there.addr[1])
  streams = [1, 9].map { |first| L::Formats::Sdp::Stream.new(host: "127.0.0.1", port: 9, lanes: 8, first: first, rate: RATE, payload_type: 97) }
  unit = L::Player::Unit.new(rate: RATE, streams: streams, library: L::Player::SongReader.new(root, RATE), config: L::Player::Config.new(nil), now: -> { 0.0 }) { |_, bytes, size| out.send(bytes, size) }
  unit.leave_by(streams, together: true) # as the process does
  unit.configure(items: [{ "key" => 1, "song" => id }], roles: roles)
  unit
end

def clock(unit, time) = unit.hear(L::Formats::Rtp.pack(sequence: 0, timestamp: time, source: 1, payload: "\0" * 3))

def measure_player(root, id)
  unit = player(root, id)
  [480, 240, 0].each { |before| clock(unit, CLOCK_START - before) } # the player trusts a clock after three packets
  load = Benchmark.realtime { unit.load(item: 1) }
  before = cpu
  unit.command("play")
  (1..(SECONDS * RATE / 240)).each do |step|
    unit.fill if (step % 20).zero?
    clock(unit, CLOCK_START + (step * 240))
  end
  [load, cpu - before, unit.status["missed"]]
end

def measure_render(root, id)
  folder = File.join(root, id)
  song = L::Songs::SongFile.song(L::Songs::SongFile.read(folder))
  config = L::Player::Config.new(nil)
  config.change("roles" => roles)
  before = cpu
  Dir.mktmpdir(nil, root) { |out| L::Player::Render.new(song, folder, config.roles).run(out) }
  cpu - before
end

def children = Process.times.then { |times| times.cutime + times.cstime }

def measure(*command)
  before = children
  _, err, status = Open3.capture3(*command)
  abort(err) unless status.success?
  children - before
end

Dir.mktmpdir do |root|
  id = "00000000-0000-4000-8000-0000000000be"
  folder = File.join(root, id)
  Dir.mkdir(folder)
  made(folder)
  files = (1..STEMS).map { |n| File.join(folder, "#{n}.wav") }
  pans = (0...STEMS).map { |n| "c#{n}=c#{2 * n}+c#{n.zero? ? (2 * STEMS) - 1 : (2 * n) - 1}" }.join("|")
  inputs = files.flat_map { |file| ["-i", file] }
  # In turns, and the least of each counts: the machine is not as fast at one moment as at the next.
  rounds = Array.new(ROUNDS) do
    load, spent, missed = measure_player(root, id)
    render = measure_render(root, id)
    sox = measure("sox", "-M", *files, "-b", "24", File.join(root, "sox.wav"), "remix", *(1..STEMS).map { |n| "#{(2 * n) - 1},#{n == 1 ? 2 * STEMS : (2 * n) - 2}" })
    ffmpeg = measure("ffmpeg", "-v", "error", "-y", *inputs, "-filter_complex", "amerge=inputs=#{STEMS},pan=16c|#{pans}", "-c:a", "pcm_s24le", File.join(root, "ffmpeg.wav"))
    { load: load, live: spent / SECONDS, missed: missed, render: render, sox: sox, ffmpeg: ffmpeg }
  end
  all = ->(what) { rounds.map { |round| format("%.3f", round[what]) }.join(", ") }
  least = ->(what) { rounds.map { |round| round[what] }.min }
  puts "#{STEMS} stereo stems to 16 outputs, #{SECONDS} s, #{ROUNDS} rounds in turns"
  puts "live, with its packets: #{all[:live]} of a core; a song loaded in #{(least[:load] * 1000).round} ms; pieces that were not there in time: #{rounds.sum do |round|
    round[:missed]
  end}"
  puts "to 16 files by the same deck: #{all[:render]} s; SoX #{all[:sox]} s; ffmpeg #{all[:ffmpeg]} s"
  puts format("least by least: %<sox>.2f of SoX, %<ffmpeg>.2f of ffmpeg", sox: least[:render] / least[:sox], ffmpeg: least[:render] / least[:ffmpeg])
end
