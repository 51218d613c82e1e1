# frozen_string_literal: true

# A player, the stand-in interface and the stand-in desk in one process, joined without sockets and driven by a virtual clock: a step is
# 10 ms of sound. Songs are real files in a folder.
class VirtualPlayback
  # Nobody plays on stage.
  class Silence
    def initialize(sockets) = @sockets = sockets
    def read(_, frames) = Numo::DFloat.zeros(frames, @sockets)
  end

  attr_reader :desk, :interface, :player, :heard, :meters, :now

  # @param songs [String] folder of the songs
  # @param cables [Hash] output => socket of the desk
  def initialize(songs, cables: { "1" => "in/1", "2" => "in/2", "3" => "in/3", "4" => "in/4" }, rig: { "interface" => "fern-12-twin" }, rate: 48_000)
    @now = 0.0
    model = VirtualRig.model
    @desk = Loomshuttle::StandIns::Desk::Unit.new(model, ports: { sends: 5000, returns: 6000 }, card: ->(*) {}, reply: ->(*) {}, now: -> { @now },
                                                         stage: Silence.new(model.sockets.size))
    @desk.cables.plan = cables
    kind = Loomshuttle::StandIns::Interface::Model.new(rig, VirtualRig::PROFILES, rate)
    lanes = @desk.cables.streams
    @interface = Loomshuttle::StandIns::Interface::Unit.new(kind, streams: [lanes] * kind.computers, cables: lanes, out: ->(stream, bytes) { @desk.cables.push(stream, bytes) },
                                                                  clock: ->(computer, bytes) { computer.zero? && hear(bytes) })
    library, config = Loomshuttle::Player::SongReader.new(songs, rate), Loomshuttle::Player::Config.new(nil)
    @player = Loomshuttle::Player::Unit.new(rate: rate, streams: lanes, library: library, config: config, now: -> { @now }) { |stream, bytes| @interface.inputs[0].push(stream, bytes) }
    @meters = []
    @player.on_meters = ->(levels) { @meters << levels }
    @heard = []
  end

  # @param reading [Boolean] whether the disk answers
  # @param connected [Boolean] whether the interface's clock reaches the player
  def run(seconds, reading: true, connected: true)
    @connected = connected
    (seconds * 100).round.times do
      @now += 0.01
      nil while reading && @player.fill
      2.times { @interface.step.tap { @heard << @interface.last.dup } }
      @desk.step
    end
    self
  end

  # @return [Array<Integer>] what an output has given so far, and forgets it
  def output(number) = @heard.map { |block| block[true, number - 1].to_a }.flatten

  def forget = @heard.clear

  private

  def hear(bytes) = @connected && @player.hear(bytes)
end
