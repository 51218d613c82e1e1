# frozen_string_literal: true

# The web process under a crew: crew.rb [SECONDS] [VIEWERS] [EDITORS]. Viewers follow the live feed while editors each change a setting every two
# seconds, next to a 64-lane capture (in a second recorder on the same machine) and a song. It measures how long edits take, how long the feed
# takes from an edit's answer to the last viewer, the memory of the web process, and the samples that the capture lost.
require_relative "application"
require_relative "bench_recorder"
require "socket"
Loomshuttle.load_parts(:core)
%w[viewers editors].each { |part| require_relative "crew/#{part}" }

SECONDS = (ARGV.shift || 600).to_i
VIEWERS = (ARGV.shift || 200).to_i
EDITORS = (ARGV.shift || 20).to_i
LANES, LANES_PORT = 64, 31_000

# One application, a recorder beside it, and the crew.
class Crew
  def initialize(home)
    @home = home
    @application = Bench::Application.new(home)
    @web = IO.popen(["pgrep", "-f", "puma .*127.0.0.1:#{Bench::Application::PORT}"], &:read).to_i # Puma sets its own process title
  end

  # @return [Array<Array>] rows of what was measured and how much it was
  def measure
    song
    memory = [resident]
    lost, (viewers, edits) = with_capture { work(memory) }
    late, slow = late(viewers, edits), edits.map { |_, began, ended, _| (ended - began) * 1000 }
    refused = edits.reject { |code, *| code == 200 }.size
    [["what", "how much"], ["viewers at the end", viewers["viewers"]], ["edits", edits.size], ["of those refused", refused], ["edit, ms: median, p99", quantiles(slow)],
     ["from the answer to the last viewer, ms: median, p99", quantiles(late)], ["feed, kB a second and viewer", (viewers["bytes"] / 1000.0 / SECONDS / VIEWERS).round(1)],
     ["web, of a core", @share.round(2)], ["web, MiB at the start, then each tenth", memory.join(" ")], ["samples lost by the capture", lost],
     ["pieces the song missed", @missed]]
  end

  def stop = @application.stop

  private

  def song
    sleep(0.5) until JSON.parse(@application.get("/api/player"))["player"]&.fetch("clock")
    @application.wait_for_songs
    load_song
  end

  def load_song
    @application.post("/api/player", command: "load", item: 1)
  rescue RuntimeError
    sleep(1)
    retry
  end

  # Somebody presses it again and again, since a song is shorter than a crew works.
  def keep_playing
    state = JSON.parse(@application.get("/api/player"))["player"]
    @missed = state["missed"].to_i
    @application.post("/api/player", command: "play") if state["state"] == "stopped"
  end

  def with_capture
    folder = File.join(@home, "bench-recorder").tap { |path| Dir.mkdir(path) }
    recorder = BenchRecorder.start(folder, LANES, LANES_PORT)
    sender = BenchRecorder.capture(folder, LANES, LANES_PORT, SECONDS + 60)
    crew = yield
    take = BenchRecorder.call(folder, "capture.stop")
    [take["gaps"].sum { |gap| gap["frames"] }, crew]
  ensure
    [recorder, sender].compact.each { |pid| Process.kill(:TERM, pid) && Process.wait(pid) }
  end

  def work(memory)
    used, began = Bench.processor_seconds(@web), Bench.now
    children = [CrewViewers.new(Bench::Application::PORT, VIEWERS), CrewEditors.new(Bench::Application::PORT, EDITORS)].map { |part| aside(part) }
    10.times do
      keep_playing
      sleep(SECONDS / 10.0)
      memory << resident
    end
    @share = (Bench.processor_seconds(@web) - used) / (Bench.now - began)
    children.map { |pipe, pid| JSON.parse(pipe.read).tap { Process.wait(pid) } }
  end

  def aside(part)
    out, back = IO.pipe
    pid = fork { back.puts(JSON.generate(part.run(SECONDS))) || exit!(0) }
    back.close
    [out, pid]
  end

  # Milliseconds; only of versions that all have heard of.
  def late(viewers, edits)
    edits.filter_map do |_, _, answered, version|
      count, last = viewers["heard"][version.to_s]
      [(last - answered) * 1000, 0].max if count == VIEWERS
    end
  end

  def quantiles(list) = list.empty? ? "none" : [0.5, 0.99].map { |part| list.sort[(part * (list.size - 1)).round].round(1) }.join(", ")
  def resident = File.read("/proc/#{@web}/status")[/VmRSS:\s*(\d+)/, 1].to_i / 1024
end

Bench.machine
Dir.mktmpdir do |home|
  File.chmod(0o755, home)
  crew = Crew.new(home)
  Bench.table(crew.measure)
ensure
  crew&.stop
end
