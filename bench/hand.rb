# frozen_string_literal: true

# From a hand at the desk to a difference that the application tells, against how many control packets get lost. The goal is a second.
require_relative "support"
Loomshuttle.load_parts(:core, :stand_ins)
require "net/http"

# One application, started as bin/demo does, with a show that is in step with its desk.
class HandBench
  PORT = 14_040
  TIMES = 30
  ADDRESS = "strip/4/gain"

  def initialize(home)
    script = File.join(Loomshuttle::ROOT, "processes", "demo.rb")
    log = File.join(home, "log")
    @pid = Process.spawn(RbConfig.ruby, script, "--port", PORT.to_s, "--home", home, out: log, err: %i[child out])
    sleep(0.2) until File.read(log).include?("Loomshuttle is at")
    @hand = Loomshuttle::StandIns::Desk::Hand.new(PORT + 2)
    post("/api/shows/2/open")
    post("/api/desk/send")
  end

  # @return [Array<Float>] milliseconds from each turn until the difference was told, least first
  def turns(loss)
    @hand.run("loss", loss.to_s)
    planned = @hand.run("get", ADDRESS)
    Array.new(TIMES) { |n| turned(planned + 1 + (n % 5)).tap { turned(planned) } }.sort
  ensure
    @hand.run("loss", "0")
  end

  def stop
    Process.kill(:TERM, @pid)
    Process.wait(@pid)
  end

  private

  def turned(value)
    was = apart
    @hand.run("set", ADDRESS, value.to_s)
    began = Bench.now
    sleep(0.002) while apart == was
    (Bench.now - began) * 1000
  end

  def apart = get("/api/state")["desk"]["apart"]
  def get(path) = JSON.parse(Net::HTTP.get(URI("http://127.0.0.1:#{PORT}#{path}")))
  def post(path) = Net::HTTP.post(URI("http://127.0.0.1:#{PORT}#{path}"), "{}", "content-type" => "application/json")
end

Bench.machine
Dir.mktmpdir do |home|
  File.chmod(0o755, home)
  bench = HandBench.new(home)
  rows = [0, 10, 30].map do |loss|
    times = bench.turns(loss)
    ["#{loss} %", times[times.size / 2].round, times[-1].round]
  end
  Bench.table([["control packets lost", "median, ms", "most, ms"], *rows])
ensure
  bench&.stop
end
