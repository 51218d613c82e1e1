# frozen_string_literal: true

# From a hand at the desk to a difference that the application tells, against how many control packets get lost. The goal is a second.
require_relative "application"
Loomshuttle.load_parts(:core, :runtime, :stand_ins)

# An application with a show that is in step with its desk, and somebody at that desk.
class HandBench
  TIMES = 30
  ADDRESS = "strip/4/gain"

  def initialize(home)
    @application = Bench::Application.new(home)
    @hand = Loomshuttle::StandIns::Desk::Hand.new(Bench::Application::PORT + 2)
    @application.post("/api/shows/2/open")
    @application.post("/api/desk/send")
  end

  # @return [Array<Float>] milliseconds from each turn until the difference was told, least first
  def turns(loss)
    @hand.run("loss", loss.to_s)
    planned = @hand.run("get", ADDRESS)
    Array.new(TIMES) { |n| turned(planned + 1 + (n % 5)).tap { turned(planned) } }.sort
  ensure
    @hand.run("loss", "0")
  end

  def stop = @application.stop

  private

  def turned(value)
    was = apart
    @hand.run("set", ADDRESS, value.to_s)
    began = Bench.now
    sleep(0.002) while apart == was
    (Bench.now - began) * 1000
  end

  def apart = JSON.parse(@application.get("/api/state"))["desk"]["apart"]
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
