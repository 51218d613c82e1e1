# frozen_string_literal: true

# What lists of takes and jobs cost: bench/shelves.rb [TAKES] [JOBS]. Processor time of a look at rest, and the time of each list.
require_relative "../loader"
require "json"
require "time"
require "tmpdir"
Loomshuttle.load_parts(:core, :runtime, :porter, :web, :store)
L = Loomshuttle
takes, jobs = (ARGV.map(&:to_i) + [2000, 5000][ARGV.size..]).first(2)
level = { "peak_dbfs" => -12.0, "rms_dbfs" => -20.0, "clips" => 0, "rests" => [] }
track = ->(n) { { "number" => n, "name" => "Track #{n}", "inputs" => [n], "outputs" => [n], "file" => "#{n}.wav", "frames" => 480_000, **level } }
manifest = { "format" => "loomshuttle-take/1", "name" => "Set", "state" => "complete", "rate" => 48_000, "bits" => 24, "frames" => 480_000, "started_at" => "2026-06-13T20:30:00Z",
             "tracks" => (1..35).map(&track) }
used = -> { Process.clock_gettime(Process::CLOCK_PROCESS_CPUTIME_ID) }
seconds = ->(&block) { used.call.then { |from| block.call && (used.call - from) } }

Dir.mktmpdir do |home|
  takes.times do |n|
    folder = File.join(home, "takes", format("%04d Set", n + 1)).tap { |path| FileUtils.mkdir_p(path) }
    File.write(File.join(folder, "take.json"), JSON.generate(manifest.merge("id" => format("00000000-0000-4000-8000-%012d", n), "number" => n + 1)))
  end
  jobs.times do |n|
    id = format("00000000-0000-4000-8000-%012d", n)
    folder = File.join(home, "jobs", id).tap { |path| FileUtils.mkdir_p(path) }
    File.write(File.join(folder, "job.json"),
               JSON.generate("id" => id, "kind" => "export", "state" => "done", "made_at" => (Time.now - n).iso8601(3), "form" => "zip", "name" => "Job", "take" => "/x",
                             "number" => 1))
  end
  store = Object.new.tap { |one| one.define_singleton_method(:reconcile) { |_| 0 } }
  shelf, list = L::Web::TakeShelf.new(File.join(home, "takes"), store, on_change: -> {}), L::Web::Jobs.new(home)
  index = L::Porter::Job.index(File.join(home, "jobs"))
  puts format("first look: %<takes>.2f s of processor for takes, %<jobs>.2f s for jobs", takes: seconds.call { shelf.reconcile || true }, jobs: seconds.call { list.all })
  L::Web::Routes::TakeRoutes.list(shelf.all)
  lists = [seconds.call { L::Web::Routes::TakeRoutes.list(shelf.all) }, seconds.call { list.all }]
  puts format("list of %<n>d takes: %<takes>.1f ms, of %<m>d jobs: %<jobs>.1f ms", n: takes, m: jobs, takes: lists[0] * 1000, jobs: lists[1] * 1000)
  look = seconds.call { shelf.reconcile || true }
  puts format("takes at rest: %<share>.2f %% of a processor", share: look * 100 / [L::Web::TakeShelf::EVERY, L::Web::TakeShelf::REST * look].max)
  list.clear
  L::Porter::Job.open(File.join(home, "jobs"), index)
  at_rest = [seconds.call { list.all } / L::Web::Clearing::LOOK, seconds.call { L::Porter::Job.open(File.join(home, "jobs"), index) } / L::Porter::Server::LOOK]
  puts format("jobs at rest, %<n>d kept: screens %<web>.2f %%, porter %<porter>.2f %%", n: list.all.size, web: at_rest[0] * 100, porter: at_rest[1] * 100)
end
