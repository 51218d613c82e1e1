# frozen_string_literal: true

# Two players of the same songs at one twin interface, on a virtual clock. Each hears the interface's clock; what is asked is asked of both for
# one sample of it.
class TwoPlayers
  attr_reader :interface, :players, :heard

  # @param songs [String] folder of the songs
  def initialize(songs)
    @now = 0.0
    lanes = Loomshuttle::StandIns::Desk::Cables.new(VirtualRig.model).streams
    kind = Loomshuttle::StandIns::Interface::Model.new({}, VirtualRig::PROFILES, 48_000)
    @alive = [true, true]
    @heard = []
    @interface = Loomshuttle::StandIns::Interface::Unit.new(kind, streams: [lanes, lanes], cables: lanes, out: ->(*) {}, clock: method(:hear))
    @players = Array.new(2) { |number| player(songs, lanes, number) }
  end

  def configure(**changes) = @players.each { |player| player.configure(**changes) }
  def load(item) = @players.each { |player| player.load(item: item) }

  # A twentieth of a second ahead, as a leader tells his follower.
  def command(what, **with)
    at = @players.map { |player| player.deck.time }.max + 2400
    @players.each { |player| player.command(what, at: at, **with) }
  end

  # From now on nothing comes from a player, whatever it does.
  def kill(number) = @alive[number] = false

  # @param frames [Integer] a multiple of 240
  def run(frames)
    (frames / 240).times do
      @now += 0.005
      @players.each { |player| nil while player.fill }
      @interface.step
      @heard << @interface.last[true, 0].to_a
    end
    self
  end

  def output = @heard.flatten

  private

  def player(songs, lanes, number)
    library, config = Loomshuttle::Player::SongReader.new(songs, 48_000), Loomshuttle::Player::Config.new(nil)
    Loomshuttle::Player::Unit.new(rate: 48_000, streams: lanes, library: library, config: config, now: -> { @now }) do |stream, bytes|
      @interface.inputs[number].push(stream, bytes) if @alive[number]
    end
  end

  def hear(computer, bytes) = @alive[computer] && @players&.at(computer)&.hear(bytes)
end
