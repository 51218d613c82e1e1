# frozen_string_literal: true

# A storm of faders: somebody moves 40 a second at the desk while viewers look at who hears what, each reading the table again whenever it
# is told to. What it costs the application's web process, and how long it is from a move to the table with it.
require_relative "application"
require "socket"
Loomshuttle.load_parts(:core, :runtime, :stand_ins)

# One application, a desk that is turned all the time, and viewers.
class FaderBench
  SECONDS, MOVES = 15, 40

  def initialize(home)
    @application = Bench::Application.new(home)
    @application.post("/api/shows/2/open")
    @application.post("/api/desk/send")
    @hand = UDPSocket.new.tap { |socket| socket.connect("127.0.0.1", Bench::Application::PORT + 2) }
    @web = IO.popen(["pgrep", "-f", "puma .*127.0.0.1:#{Bench::Application::PORT}"], &:read).to_i # Puma gives its process a title of its own
  end

  # @return [Array] as `row`, while nobody moves anything
  def still
    used = ticks
    sleep(SECONDS)
    ["nobody moves a fader", ((ticks - used) / 100.0 / SECONDS).round(2), "", ""]
  end

  # @param viewers [Integer]
  # @return [Array] share of a core that the web process took, tables read a second and viewer, and medians of milliseconds from a move
  def row(viewers)
    watching = Array.new(viewers) { Viewer.new(Bench::Application::PORT) }
    began, used = Bench.now, ticks
    late = storm(watching.first)
    share = (ticks - used) / 100.0 / (Bench.now - began)
    read = watching.empty? ? 0 : watching.sum(&:read) / watching.size / (Bench.now - began)
    [viewers, share.round(2), read.round(1), late.empty? ? "" : late.sort[late.size / 2].round]
  ensure
    watching&.each(&:stop)
  end

  def stop = @application.stop

  private

  # Fader 9 goes through figures that come once; those are looked for in the first viewer's tables.
  def storm(viewer)
    late = []
    (SECONDS * MOVES).times do |n|
      turn("strip/#{1 + (n % 30)}/fader", -10.0 - (n % 7)) unless (n % 30) == 8
      late << probe(viewer, n) if viewer && (n % 60).zero?
      sleep(1.0 / MOVES)
    end
    late
  end

  def probe(viewer, number)
    value = -20 - (number / 60)
    began = Bench.now
    turn("strip/9/fader", value.to_f)
    sleep(0.001) until viewer.level("Whistles") == value || Bench.now - began > 5
    (Bench.now - began) * 1000
  end

  def turn(address, value) = @hand.send(Loomshuttle::Formats::Osc.pack("/set", @number = @number.to_i + 1, address, value), 0)
  def ticks = File.read("/proc/#{@web}/stat").split.values_at(13, 14).sum(&:to_i)

  # Reads the live feed, and the table whenever that says that somebody hears something else.
  class Viewer
    attr_reader :read

    def initialize(port)
      @port, @read, @table = port, 0, {}
      @thread = Thread.new { Net::HTTP.start("127.0.0.1", port) { |http| http.request_get("/api/live") { |answer| follow(answer) } } }
      @thread.report_on_exception = false
    end

    # @return [Float, nil] what the PA hears of a source, by the newest table
    def level(title) = @table["sources"]&.index { |one| one["title"] == title }&.then { |at| @table["db"][at][0]&.round }
    def stop = @thread.kill

    private

    def follow(answer) = answer.read_body { |part| look if part.include?("event: heard") }

    def look
      @table = JSON.parse(Net::HTTP.get("127.0.0.1", "/api/hearing", @port))
      @read += 1
    end
  end
end

Bench.machine
Dir.mktmpdir do |home|
  File.chmod(0o755, home)
  bench = FaderBench.new(home)
  Bench.table([["viewers", "web, of a core", "tables a second each", "move to table, ms"], bench.still, *[0, 1, 10].map { |viewers| bench.row(viewers) }])
ensure
  bench&.stop
end
