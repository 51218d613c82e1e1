# frozen_string_literal: true

# Memory over a long night on the virtual clock: bench/soak.rb [HOURS]. Three processes: captures while the desk restarts every hour, songs
# whose clock jumps every hour, and a viewer that never reads. Memory of each at the start, after an hour and at the end.
require_relative "support"
require "socket"
Loomshuttle.load_parts(:core, :runtime, :recorder, :player, :web)
require "rspec/core"
require_relative "../spec/support/core/song_help"
require_relative "../spec/support/sound/song_folder"

HOURS = (ARGV.first || 12).to_i
L = Loomshuttle
%w[recorder player viewer].each { |part| require_relative "soak/long_#{part}" }

def resident
  GC.start
  File.read("/proc/self/status")[/VmRSS:\s*(\d+)/, 1].to_i / 1024
end

# @return [Array<Integer>] MiB at the start, after an hour and at the end, and the seconds it took
def measured(part, folder)
  began = Bench.now
  long = part.new(folder)
  at = [resident]
  HOURS.times do |number|
    long.hour(number)
    at << resident if number.zero? || number == HOURS - 1
  end
  [*at.values_at(0, 1, -1), (Bench.now - began).round]
end

# All at once; each row is printed when its part has ended.
parts = { "recorder" => LongRecorder, "player" => LongPlayer, "viewer" => LongViewer }.to_h do |name, part|
  folder, (out, back) = Dir.mktmpdir("soak"), IO.pipe
  fork { back.puts(JSON.generate([name, *measured(part, folder)])) }
  back.close
  [out, folder]
end
Bench.machine
rows = []
until parts.empty?
  IO.select(parts.keys).first.each do |out|
    rows << JSON.parse(out.read)
    puts rows.last.join(" ")
    FileUtils.rm_rf(parts.delete(out))
  end
end
Process.waitall
Bench.table([["part, #{HOURS} h", "MiB at the start", "after an hour", "at the end", "took, s"], *rows])
