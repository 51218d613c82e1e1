# frozen_string_literal: true

# Processor time of each place in the browser (headless Chromium, software rendering) and of the application's processes at that time:
# browser.rb [URL] [SECONDS] [PLACE...]. The application runs already, with the band playing. BUSY=1: all the while a capture of the armed
# tracks runs and a song plays.
require_relative "support"
require "net/http"
require "selenium-webdriver"

URL = ARGV.shift || "http://127.0.0.1:4040"
SECONDS = (ARGV.shift || 20).to_i
BUSY = ENV["BUSY"] == "1"
PLACES = ARGV.empty? ? %w[rig patch line-check capture soundcheck playback outputs handover stage] : ARGV
PARTS = { "desk" => %r{processes/desk\.rb}, "recorder" => %r{processes/recorder\.rb}, "interface" => %r{processes/interface\.rb}, "player" => %r{processes/player\.rb},
          "web" => /puma /, "browser" => /chromium/ }.freeze

# @return [Hash{String=>Float}] processor seconds of each part, of all its processes
def used
  lines = Dir["/proc/[0-9]*"].filter_map do |folder|
    words = File.read(File.join(folder, "cmdline")).tr("\0", " ")
    part = PARTS.find { |_, pattern| words.match?(pattern) }&.first
    [part, Bench.processor_seconds(File.basename(folder))] if part
  rescue SystemCallError
    nil
  end
  lines.group_by(&:first).transform_values { |list| list.sum(&:last) }
end

# @return [Hash{String=>Float}] share of a core while it yields nothing for SECONDS
def shares
  before, from = used, Bench.now
  sleep(SECONDS)
  took = Bench.now - from
  used.to_h { |part, seconds| [part, (seconds - before.fetch(part, seconds)) / took] }
end

def ask(path) = JSON.parse(Net::HTTP.get(URI("#{URL}#{path}")))

def tell(path, data = {})
  uri = URI("#{URL}#{path}")
  Net::HTTP.start(uri.host, uri.port) { |http| http.request(Net::HTTP::Post.new(uri, "content-type" => "application/json"), JSON.generate(data)) }
end

# The first song of the running order again, should it be through, and a capture.
def keep_busy
  tell("/api/capture", { name: "Bench" }) unless ask("/api/state").dig("recorder", "capture")
  tell("/api/player", { command: "load", item: 1 })
  tell("/api/player", { command: "play" })
end

# One place's row: shares of a core, and the desk's clock by this computer's clock, as the state band tells it at the end.
def measure(name)
  keep_busy if BUSY
  all = shares
  [name, *PARTS.keys.map { |part| all.fetch(part, 0).round(2) }, ask("/api/state").dig("recorder", "hz").round]
end

flags = %w[--headless=new --no-sandbox --disable-gpu --disable-dev-shm-usage --no-first-run --disable-background-networking --disable-extensions --mute-audio
           --force-device-scale-factor=1 --window-size=1280,943]
options = Selenium::WebDriver::Chrome::Options.new(binary: "/usr/bin/chromium", args: flags)
rows = [["place", *PARTS.keys, "Hz"], measure("(no browser)")]
driver = Selenium::WebDriver.for(:chrome, options: options, service: Selenium::WebDriver::Service.chrome(path: "/usr/bin/chromedriver"))
PLACES.each do |place|
  driver.navigate.to("#{URL}/#/#{place}")
  sleep(4)
  rows << measure(place)
end
driver.quit
tell("/api/capture/stop") if BUSY
Bench.machine
Bench.table(rows)
