# frozen_string_literal: true

# From bin/demo to the first painted screen, where everything is installed: start.rb [TIMES]. The first start makes its home, database and all; the
# browser (headless Chromium, software rendering) is there before, and asks for the page from the moment on at which the port is open.
require_relative "support"
require "fileutils"
require "selenium-webdriver"

TIMES = (ARGV.shift || 3).to_i
PORT = 14_140

def open?
  TCPSocket.new("127.0.0.1", PORT).close.nil?
rescue SystemCallError
  false
end

flags = %w[--headless=new --no-sandbox --disable-gpu --disable-dev-shm-usage --no-first-run --disable-background-networking --disable-extensions --window-size=1280,943]
options = Selenium::WebDriver::Chrome::Options.new(binary: "/usr/bin/chromium", args: flags)
driver = Selenium::WebDriver.for(:chrome, options: options, service: Selenium::WebDriver::Service.chrome(path: "/usr/bin/chromedriver"))
rows = Dir.mktmpdir do |home|
  File.chmod(0o755, home)
  (0..TIMES).map do |time|
    driver.navigate.to("about:blank")
    began = Bench.now
    demo = Bundler.with_unbundled_env { Process.spawn(File.join(Loomshuttle::ROOT, "bin/demo"), "--port", PORT.to_s, "--home", home, out: File::NULL, err: File::NULL, pgroup: true) }
    sleep(0.02) until open?
    answers = Bench.now - began
    driver.navigate.to("http://127.0.0.1:#{PORT}/#/patch")
    sleep(0.02) until driver.execute_script("return document.querySelectorAll('[role=grid] [role=row], main table tr').length") > 5
    shown = Bench.now - began
    paint = driver.execute_script("return performance.getEntriesByName('first-contentful-paint')[0]?.startTime ?? 0")
    Process.kill(:TERM, demo)
    Process.wait(demo)
    [time.zero? ? "first, with its home" : "again", answers.round(2), paint.fdiv(1000).round(2), shown.round(2)]
  end
end
driver.quit
Bench.machine
Bench.table([["start", "port open, s", "first paint behind the request, s", "sources shown, s"], *rows])
