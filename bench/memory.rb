# frozen_string_literal: true

# What each process of the application holds: after its start, and after a capture of all armed tracks: memory.rb [SECONDS]. The demo's rig has 40
# lanes, all of which are looked back at and metered, whether they are armed or not.
require_relative "application"

SECONDS = (ARGV.shift || 3600).to_i
PARTS = { "desk" => %r{processes/desk\.rb}, "interface" => %r{processes/interface\.rb}, "recorder" => %r{processes/recorder\.rb}, "player" => %r{processes/player\.rb},
          "web" => /puma .*:#{Bench::Application::PORT}/, "porter" => %r{processes/porter\.rb}, "supervisor" => %r{processes/demo\.rb}, "database" => /postgres/ }.freeze

# @return [Hash{String=>Array<Integer>}] MiB now and at most, of all processes of a part; what the database's processes share counts for each
def held
  lines = Dir["/proc/[0-9]*"].filter_map do |folder|
    part = PARTS.find { |_, pattern| File.read(File.join(folder, "cmdline")).tr("\0", " ").match?(pattern) }&.first or next
    status = File.read(File.join(folder, "status"))
    [part, %w[VmRSS VmHWM].map { |line| status[/#{line}:\s*(\d+)/, 1].to_i / 1024 }]
  rescue SystemCallError
    nil
  end
  lines.group_by(&:first).transform_values { |list| list.map(&:last).transpose.map(&:sum) }
end

Bench.machine
Dir.mktmpdir do |home|
  File.chmod(0o755, home)
  application = Bench::Application.new(home)
  sleep(0.5) while system("pgrep", "-f", "processes/demo_songs", out: File::NULL)
  sleep(20)
  started = held
  application.post("/api/capture", name: "Memory")
  sleep(60)
  minute = held
  sleep(SECONDS - 60)
  application.post("/api/capture/stop")
  ended = held
  Bench.table([["part", "MiB after the start", "after a minute of capture", "at the end", "most"],
               *PARTS.keys.map { |part| [part, started[part]&.first, minute[part]&.first, *ended[part]] }])
ensure
  application&.stop
end
