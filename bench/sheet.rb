# frozen_string_literal: true

# From a key press to the repainted strand sheet, in the real browser on the real application, against the number of channels: a
# step of the cursor, a name, and a send that is emptied. Name and send are drawn before the application has answered; of the send
# also the answer is awaited, with the new graph, checks and sheet. The goal is 50 ms from the key at 128 strands.
# Needs what bin/test installs and a built interface.
require_relative "../loader"
Loomshuttle.load_parts(:core)
require_relative "application"
require_relative "big_show"
require_relative "crew/editors"
require "selenium-webdriver"

# One application with a browser on it.
class SheetBench
  TIMES = 60
  EDITORS = ENV.fetch("EDITORS", "0").to_i
  FLAGS = %w[--headless=new --no-sandbox --disable-gpu --disable-dev-shm-usage --disable-quic --no-first-run --disable-background-networking
             --disable-component-update --disable-sync --disable-extensions --mute-audio --window-size=1280,943].freeze
  # Resolves with the times from the next press of a key until what each expression tells has changed and been painted.
  WATCH = <<~JS
    const [key, ...expressions] = arguments;
    window.measured = Promise.all(expressions.map((expression) => new Promise((done) => {
      const state = new Function(`return ${expression}`);
      const painted = (then) => { const line = new MessageChannel(); line.port1.onmessage = then; line.port2.postMessage(0); };
      const watch = (event) => {
        if (event.key !== key) return;
        window.removeEventListener('keydown', watch, true);
        const from = performance.now(); const before = state();
        const look = () => (state() === before ? requestAnimationFrame(look) : painted(() => done(performance.now() - from)));
        requestAnimationFrame(look);
      };
      window.addEventListener('keydown', watch, true);
    })));
  JS
  CURSOR = "document.querySelector('.sheet-port.sheet-at')?.dataset.port"
  NAME = %q(document.querySelector("[data-port='desk/ch/1']")?.textContent)
  SEND = 'document.querySelectorAll("path.sheet-thread:not(.sheet-loose)").length'
  # Its tap vanishes with the answer.
  ANSWER = %q(document.querySelector("[data-port='card/send/1']")?.textContent)

  def initialize(home)
    ENV["SE_OFFLINE"] = ENV["SE_AVOID_STATS"] = "true"
    @application = Bench::Application.new(home).tap(&:wait_for_songs)
    options = Selenium::WebDriver::Chrome::Options.new(binary: "/usr/bin/chromium", args: FLAGS)
    @browser = Selenium::WebDriver.for(:chrome, options: options, service: Selenium::WebDriver::Service.chrome(path: "/usr/bin/chromedriver"))
  end

  def close
    @browser.quit
    @application.stop
  end

  # @return [Array] channels, bytes of the show, and median and p95 in ms: cursor step, name, send drawn and answered, and the application's
  #   part of the last
  def row(channels)
    open_show(channels)
    @browser.navigate.to("#{@application.url}/?channels=#{channels}#/patch")
    wait { @browser.find_elements(css: "[data-port='desk/ch/1']").any? }
    @browser.execute_script("document.querySelector(\"[data-port='desk/ch/1']\").click()")
    editors = work
    step = times { |n| timed(n.even? ? "ArrowDown" : "ArrowUp", CURSOR) { key(n.even? ? :arrow_down : :arrow_up) }.first }
    name = times { |n| rename(n) }
    drawn, answered = Array.new(TIMES) { empty_send }.transpose
    show = @application.get("/api/show")
    [channels, show.bytesize, *[step, name, drawn.sort, answered.sort, server].map { |list| quantiles(list) }]
  ensure
    leave(editors) if editors
  end

  private

  def open_show(channels)
    @application.post("/api/profiles", profile: BigShow.profile(channels))
    show = BigShow.straight(channels)
    file = Loomshuttle::Formats::ShowFile.write(show.with(about: { name: "Bench #{channels}" }), shipped: BigShow::CATALOG.all.map(&:id))
    @application.post("/api/shows", file: file, open: true)
  end

  # Others at work, in a process of their own; they change nothing that is watched here.
  def work
    return if EDITORS.zero?

    port = URI(@application.url).port
    fork { CrewEditors.new(port, EDITORS, first: 3).run(86_400) }
  end

  def leave(editors)
    Process.kill(:KILL, editors)
    Process.wait(editors)
  end

  # Name in place, with F2; Enter keeps it.
  def rename(nth)
    @browser.execute_script("document.querySelector(\"[data-port='desk/ch/1']\").click()")
    key(:f2)
    wait { naming?(1) }
    @browser.switch_to.active_element.send_keys("Name #{nth}")
    timed("Enter", NAME) { key(:enter) }.first.tap do
      wait { naming?(2) } # Enter goes on to the next one
      @browser.switch_to.active_element.send_keys(:escape)
      wait { @browser.find_elements(css: ".sheet-name-input").empty? }
    end
  end

  # Empties a send, and feeds it again, which is not to be undone where others have edited since.
  def empty_send
    @browser.execute_script("document.querySelector(\"[data-port='card/send/1']\").click()")
    timed("Delete", SEND, ANSWER) { key(:delete) }.tap do
      before = threads
      @application.post("/api/edits", settings: { "send/1/source" => "desk/ch/1" })
      wait { threads != before }
      sleep(0.3)
    end
  end

  def naming?(channel) = @browser.execute_script("return document.activeElement.getAttribute('aria-label')") == "Name of channel #{channel}"

  def threads = @browser.execute_script("return #{SEND}")

  def timed(name, *expressions)
    @browser.execute_script(WATCH, name, *expressions)
    yield
    @browser.execute_async_script("const done = arguments[arguments.length - 1]; window.measured.then(done)")
  end

  # The two requests of an edit on their own, as a browser makes them.
  def server
    times do |n|
      started = Bench.now
      @application.post("/api/edits", settings: { "send/2/source" => n.even? ? nil : "desk/ch/2" })
      @application.get("/api/show")
      (Bench.now - started) * 1000
    end
  end

  def key(*keys) = @browser.switch_to.active_element.send_keys(*keys)
  def times(&) = Array.new(TIMES, &).sort
  def quantiles(sorted) = [0.5, 0.95].map { |part| sorted[(part * (sorted.size - 1)).round].round(1) }.join(", ")

  def wait
    sleep(0.01) until yield
  end
end

Bench.machine
Dir.mktmpdir do |home|
  File.chmod(0o755, home)
  bench = SheetBench.new(home)
  rows = (ENV["SIZES"] || "16,32,64,128").split(",").map(&:to_i).map { |channels| bench.row(channels) }
  Bench.table([["channels", "bytes of the show", "cursor step, ms", "name, ms", "send drawn, ms", "send answered, ms", "of that the application, ms"], *rows])
ensure
  bench&.close
end
