# frozen_string_literal: true

# An hour of many lanes through the whole recorder on the virtual clock, every sample read back and compared: [RATE=96000] hour.rb [SECONDS]
# [LANES] [FOLDER]. 64 lanes for an hour take 33 GB there, which are deleted afterwards.
require_relative "support"
require_relative "noise"

Loomshuttle.load_parts(:core, :runtime, :recorder)

RATE = ENV.fetch("RATE", 48_000).to_i

# The recorder without sockets, on a clock that the samples make.
class VirtualHour
  attr_reader :memory

  def initialize(lanes, folder)
    @streams = Array.new(lanes / 8) { |at| Loomshuttle::Formats::Sdp::Stream.new(host: "virtual", port: at, lanes: 8, first: (8 * at) + 1, rate: RATE, payload_type: 97) }
    @noise = Noise.new(@streams)
    @sent = 0
    @unit = Loomshuttle::Recorder::Unit.new(sends: @streams, returns: @streams, takes: File.join(folder, "takes"), settings: File.join(folder, "recorder.json"),
                                            now: -> { @sent / 1000.0 }) { |_stream, _bytes| nil }
    @unit.on_meters = ->(*) {}
    @unit.on_second = ->(*) {}
    @unit.configure(tracks: (1..lanes).map { |n| { "number" => n, "name" => "Lane #{n}", "inputs" => [n], "outputs" => [], "armed" => true } })
    @memory = []
  end

  # @return [Hash] manifest with "folder"
  def capture(seconds)
    play(1000)
    @unit.capture_start(name: "Hour")
    seconds.times do |second|
      play(1000)
      @memory << rss if second == [60, seconds - 1].min
    end
    @memory << rss
    @unit.capture_stop
  end

  # @return [Integer] samples of a take that are not what was sent
  def wrong(take)
    take["tracks"].sum do |track|
      reader = Loomshuttle::Formats::Wav::Reader.new(File.join(take["folder"], track["file"]))
      differences(reader, @noise.lane(track["inputs"].first - 1, take["start_position"]))
    ensure
      reader&.close
    end
  end

  private

  def play(milliseconds)
    milliseconds.times do
      @streams.each_index { |stream| @unit.engine.receive(stream, @noise.packet(stream, @sent)) }
      @sent += 1
    end
  end

  def differences(reader, round)
    (0...reader.frames).step(round.size).sum do |from|
      part = reader.read(from, round.size)[true, 0]
      part.ne(round[0...part.size]).count_true
    end
  end

  def rss = File.read("/proc/self/status")[/VmRSS:\s*(\d+)/, 1].to_i / 1024
end

seconds, lanes = (ARGV[0] || 3600).to_i, (ARGV[1] || 64).to_i
needed = seconds * lanes * RATE * 3
Dir.mktmpdir("hour", ARGV[2]) do |folder|
  free = Loomshuttle::Runtime::FreeBytes.of(folder)
  abort "#{needed >> 30} GiB are needed in #{folder}, #{free >> 30} are free; name another folder." if needed * 1.05 > free

  Bench.machine
  hour = VirtualHour.new(lanes, folder)
  began, used = Bench.now, Process.clock_gettime(Process::CLOCK_PROCESS_CPUTIME_ID)
  take = hour.capture(seconds)
  took, used = Bench.now - began, Process.clock_gettime(Process::CLOCK_PROCESS_CPUTIME_ID) - used
  lost = (seconds * RATE) - take["frames"] + take["gaps"].sum { |gap| gap["frames"] }
  Bench.table([["lanes", "seconds of sound", "GB written", "samples lost", "samples wrong", "took, s", "share of a core at real time", "MiB after a minute", "MiB at the end"],
               [lanes, seconds, (needed / 1e9).round(1), lost, hour.wrong(take), took.round, (used / seconds).round(2), *hour.memory]])
end
