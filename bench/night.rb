# frozen_string_literal: true

# A long night: an hour of a song with a thousand seeded jumps, loops and stops at the player, with its stems on a disk that is read no faster than
# the process does it, held sample by sample against a deck whose stems are all in memory. Says what was missed or wrong, and what it
# cost: bench/night.rb [SECONDS] [JUMPS] [SEED]
require_relative "support"
Loomshuttle.load_parts(:core, :runtime, :player)

SECONDS, JUMPS, SEED = (ARGV[0] || 3600).to_i, (ARGV[1] || 1000).to_i, (ARGV[2] || 13).to_i
RATE, LENGTH, STEP = 48_000, 480 * 48_000, 240
L = Loomshuttle

# Sample n of a stem has the value (n + 1) / 2^25, which 24 bits and a 32-bit float tell apart often enough to hear any wrong place.
Counted = Struct.new(:lanes, :rate, :frames) do
  def bits = 32
  def close = nil

  def bytes(from, count)
    count = (frames - from).clamp(0, count)
    Numo::SFloat.cast((Numo::DFloat.new(count).seq + from + 1) / (1 << 25)).to_binary
  end
end

def write(root)
  folder = File.join(root, ID)
  FileUtils.mkdir_p(folder)
  bext = L::Formats::Bext.new(description: "", originator: "", reference: "", date: "2026-06-13", time: "20:00:00", time_reference: 0, history: "")
  counted = Counted.new(1, RATE, LENGTH)
  stems = [1, 2].map do |number|
    file = L::Formats::Wav::Writer.new(File.join(folder, "#{number}.wav"), bext: bext, rate: RATE, bits: 32)
    (0...LENGTH).step(RATE) { |at| file.write(counted.bytes(at, RATE)) }
    file.close
    { "id" => number, "name" => "Stem #{number}", "role" => "Role #{number}", "file" => "#{number}.wav", "lanes" => 1, "frames" => LENGTH, "sum" => "0" * 64 }
  end
  sections = (0...24).map { |nth| { "key" => nth + 1, "name" => "Section #{nth + 1}", "bar" => 1 + (10 * nth) } }
  data = L::Songs::SongFile.check({ "format" => "loomshuttle-song/1", "id" => ID, "version" => 1, "rate" => RATE, "frames" => LENGTH, "name" => "Night", "stems" => stems,
                                    "sections" => sections, "click" => { "on" => false } })
  File.write(File.join(folder, "song.json"), JSON.generate(data))
  L::Songs::SongFile.song(data)
end

ID = "00000000-0000-4000-8000-00000000000b"
ROLES = [1, 2].map { |n| { "name" => "Role #{n}", "kind" => "parts", "outputs" => [n] } }

def player(root, sent)
  streams = [L::Formats::Sdp::Stream.new(host: "127.0.0.1", port: 9, lanes: 8, first: 1, rate: RATE, payload_type: 97)]
  unit = L::Player::Unit.new(rate: RATE, streams: streams, library: L::Player::SongReader.new(root, RATE), config: L::Player::Config.new(nil), now: -> { 0.0 }) { |_, bytes| sent << bytes }
  unit.configure(items: [{ "key" => 1, "song" => ID }], roles: ROLES)
  unit
end

# Has all of it at any time.
Everything = Struct.new(:song) do
  def read(_, from, frames)
    first, last = [from, 0].max, [from + frames, LENGTH].min
    return if first >= last

    block = Numo::SFloat.zeros(frames, 1)
    block[(first - from)...(last - from), true] = Numo::SFloat.cast((Numo::DFloat.new(last - first).seq + first + 1) / (1 << 25)).reshape(last - first, 1)
    block
  end

  def fill = false
  def troubles = {}
  def play_from(*) = nil
end

def in_memory(song)
  roles = ROLES.map { |one| L::Songs::Role.new(name: one["name"], kind: "parts", outputs: one["outputs"], sum_db: -3, gain_db: 0, bed_db: nil) }
  stock = Everything.new(song)
  L::Player::Deck.new(rate: RATE, outputs: 8).tap { |deck| deck.load(L::Player::Loaded.new(item: 1, material: L::Player::Material.new(song, stock, roles), tonight: L::Songs::Tonight.plain)) }
end

# What somebody does at a moment.
def whim(random)
  case random.rand(10)
  when 0..5 then ["jump", { section: random.rand(1..24), at_next: %w[beat bar section].sample(random: random) }]
  when 6 then ["around", { on: true }]
  when 7 then ["around", { on: false }]
  when 8 then ["take.back", {}]
  else ["stop", {}]
  end
end

def clock(unit, time) = unit.hear(L::Formats::Rtp.pack(sequence: 0, timestamp: time % (1 << 32), source: 1, payload: "\0" * 3))

# Both do the same at the same sample; what is refused is refused by both.
def both(unit, deck, what, at, with)
  unit.command(what, at: at, **with)
  deck.command(what, at: at, **with)
end

def lanes_of(packets)
  packets.to_h { |bytes| L::Formats::Rtp.unpack(bytes).then { |packet| [packet.timestamp, L::Audio::Pcm24.from_network(packet.payload, 8)] } }
end

def wrong_in(block, time, sent)
  meant = L::Audio::Pcm24.limit(block).transpose.dup
  (0...block.shape[1]).step(48).sum do |at|
    given = sent.delete(time + at)
    given ? meant[at...(at + 48), 0...2].ne(given[true, 0...2]).count : meant[at...(at + 48), 0...2].ne(0).count
  end
end

# Both through the night, step by step.
class Night
  attr_reader :wrong, :refused, :done

  def initialize(root)
    @sent, @heard, @wrong, @refused, @done = [], {}, 0, 0, 0
    @random = Random.new(SEED)
    @moments = Array.new(JUMPS) { @random.rand(SECONDS * RATE) }.sort
    song = write(root)
    @unit, @deck = player(root, @sent), in_memory(song)
    clock(@unit, 0)
    @unit.load(item: 1)
    @deck.at(@unit.deck.time)
    both(@unit, @deck, "play", nil, {})
  end

  def missed = @unit.status["missed"]

  def run
    (1..(SECONDS * RATE / STEP)).each do |step|
      go(step * STEP)
      @unit.fill # a second of both stems each 5 ms: 77 MB/s
    end
  end

  private

  def go(time)
    clock(@unit, time)
    act while @moments.any? && @moments.first <= time
    compare while @deck.time < @unit.deck.time
    both(@unit, @deck, "play", @unit.deck.time + 480, {}) unless @deck.playing? || @unit.deck.playing? # it was stopped, or has come to its end
  end

  def act
    @moments.shift
    what, with = whim(@random)
    both(@unit, @deck, what, @unit.deck.time + @random.rand(1..4800), with)
    @done += 1
  rescue L::Invalid
    @refused += 1
  end

  def compare
    time = @deck.time
    @heard.merge!(lanes_of(@sent.shift(@sent.size)))
    @wrong += wrong_in(@deck.render(480), time, @heard)
  end
end

Dir.mktmpdir do |root|
  night = Night.new(root)
  before = Process.clock_gettime(Process::CLOCK_PROCESS_CPUTIME_ID)
  night.run
  cost = Process.clock_gettime(Process::CLOCK_PROCESS_CPUTIME_ID) - before
  Bench.table([["seconds", "commands", "refused", "missed pieces", "wrong samples", "processor s"], [SECONDS, night.done, night.refused, night.missed, night.wrong, cost.round]])
end
