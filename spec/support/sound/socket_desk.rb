# frozen_string_literal: true

require "socket"

# The stand-in desk's control behind a real socket, in this process and without sound: it can lose packets, restart and
# forget. `lose_requests` and `lose_answers` drop that many; `loss` drops a share of all, both ways.
class SocketDesk
  attr_accessor :lose_requests, :lose_answers, :loss
  attr_reader :settings, :port, :model

  def initialize(rig = { "desk" => "rowan-16" }, seed: 1)
    @lose_requests = @lose_answers = 0
    @loss = 0
    @random = Random.new(seed)
    @rig = rig
    @socket = UDPSocket.new.tap { |socket| socket.bind("127.0.0.1", 0) }
    @port = @socket.addr[1]
    restart
    @thread = Thread.new { loop { receive } }
  end

  # A desk that forgets everything, or keeps what it was set to; away: how many packets it misses while away.
  def restart(keep: {}, away: 0)
    @model = VirtualRig.model(@rig)
    settings = Loomshuttle::StandIns::Desk::Settings.new(@model)
    keep.each { |address, value| settings.set(address, value) }
    @lose_requests += away
    @session = @random.rand(1 << 20)
    @settings = settings
    preamps = Loomshuttle::StandIns::Desk::Preamps.new(@model, settings)
    @control = Loomshuttle::StandIns::Desk::Control.new(settings, facts: facts, preamps: preamps, now: -> { 0 }, workshop: method(:workshop)) { |peer, bytes| answer(peer, bytes) }
  end

  # What it is set to.
  def values = @settings.addresses.to_h { |address| [address, @settings.get(address)] }

  # Is set to what a show says, as far as it can be.
  def stand_as(show)
    known = values
    Loomshuttle::Web::Desk::FromPlan.settings(show).each { |address, value| @settings.set(address, value) if known.key?(address) }
  end

  # A hand at the desk.
  def turn(address, value)
    hand = UDPSocket.new.tap { |socket| socket.connect("127.0.0.1", @port) }
    hand.send(Loomshuttle::Formats::Osc.pack("/set", 1, address, value), 0)
  end

  # Calls a block once, when so many requests have come.
  def after(count, &block) = @after = [count, block]

  def tell_meters(levels) = @control.tell_meters(levels.pack("s>*"), 1)

  def close
    @thread.kill
    @socket.close
  end

  private

  def facts
    session, boxes = @session, @model.boxes.map { |box| "#{box.port} #{box.place} #{box.kind}" }.join("\n")
    { "session" => -> { session }, "revision" => -> { @settings.revision }, "profile" => -> { @model.profile }, "boxes" => -> { boxes } }
  end

  def workshop(word, value)
    raise Loomshuttle::StandIns::Desk::Settings::Refused, "this one only knows rig" unless word == "rig"

    @rig = JSON.parse(value)
    restart
    1
  end

  def receive
    bytes, from = @socket.recvfrom(65_536)
    count
    return @lose_requests -= 1 if @lose_requests.positive?

    @control.receive(bytes, [from[3], from[1]]) unless lost?
  end

  def count
    return unless @after

    @after = [@after.first - 1, @after.last]
    @after.last.call && @after = nil if @after.first.zero?
  end

  def lost? = @loss.positive? && @random.rand(100) < @loss

  def answer(peer, bytes)
    return @lose_answers -= 1 if @lose_answers.positive?

    @socket.send(bytes, 0, *peer) unless lost?
  end
end
