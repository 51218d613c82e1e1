# frozen_string_literal: true

require "tmpdir"

# A stand-in desk and a recorder in one process, joined without sockets and driven by a virtual clock: a step is 10 ms
# of sound and takes as long as it takes to compute.
class VirtualRig
  PROFILES = File.join(Loomshuttle::ROOT, "profiles")

  def self.model(rig = { "desk" => "rowan-16" }) = Loomshuttle::StandIns::Desk::Model.new(rig, PROFILES)

  # Rendered once for all tests: it takes two seconds and is the same each time.
  def self.stage(rate = 48_000)
    (@stages ||= {})[rate] ||= Loomshuttle::StandIns::Stage::PlayersOnStage.new(model.sockets, rate: rate)
  end

  # The usual desk, at a rate that its profile may not have.
  def self.at_rate(rate)
    return model if rate == 48_000

    profile = JSON.parse(File.read(File.join(PROFILES, "rowan-16.json"))).merge("rates" => [rate])
    model({ "desk" => "rowan-16", "rate" => rate, "profiles" => [profile] })
  end

  attr_reader :desk, :recorder, :meters, :replies
  # @return [Proc] may drop, swap or repeat what leaves the desk: takes stream and bytes, returns a list of packets
  attr_accessor :disturb

  def initialize(home: Dir.mktmpdir, rate: 48_000)
    @rate = rate
    @time = 0.0
    @replies = []
    @meters = []
    @desk = Loomshuttle::StandIns::Desk::Unit.new(
      self.class.at_rate(rate), ports: { sends: 5000, returns: 6000 }, session: 77, stage: self.class.stage(rate), now: -> { @time },
                                card: ->(stream, bytes) { deliver(stream, bytes) }, reply: ->(_, bytes) { @replies.concat(Loomshuttle::Formats::Osc.unpack(bytes)) }
    )
    @recorder = Loomshuttle::Recorder::Unit.new(
      sends: @desk.send_streams, returns: @desk.return_streams, takes: File.join(home, "takes"),
      settings: File.join(home, "recorder.json"), now: -> { @time }, wall: -> { Time.utc(2026, 6, 13, 20, 30, 0) }
    ) { |stream, bytes| @desk.card_in.push(stream, bytes) }
    @recorder.on_meters = ->(*frame) { @meters << frame }
  end

  # Runs some seconds of sound.
  def run(seconds)
    (seconds * @rate / 480.0).round.times do
      @time += 480.0 / @rate
      @desk.step
      @recorder.engine.look
      @recorder.fill
    end
    self
  end

  # Lets time pass in which the desk sends nothing and its counter waits.
  # @param looking [Boolean] whether the recorder sees that, or is held up itself
  def pause(seconds, looking: true)
    (seconds * 10).round.times do
      @time += 0.1
      @recorder.engine.look if looking
    end
  end

  # Channels 1 to count straight from sockets to sends and back, at 26 dB of gain.
  def patch_straight(count = 16, tap: "preamp")
    (1..count).each do |n|
      { "strip/#{n}/stage" => "in/#{n}", "strip/#{n}/take" => "card/#{n}", "strip/#{n}/gain" => 26.0,
        "card/send/#{n}/from" => "ch/#{n}", "card/send/#{n}/tap" => tap }.each { |address, value| @desk.settings.set(address, value) }
    end
    tracks = (1..count).map { |n| { "number" => n, "name" => "Track #{n}", "inputs" => [n], "outputs" => [n], "armed" => true } }
    @recorder.configure(tracks: tracks)
    self
  end

  private

  def deliver(stream, bytes)
    (@disturb ? @disturb.call(stream, bytes) : [bytes]).each { |packet| @recorder.engine.receive(stream, packet) }
  end
end
