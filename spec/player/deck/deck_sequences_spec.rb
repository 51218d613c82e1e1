# frozen_string_literal: true

# Reads like a file of samples that are all the song's number.
class NumberedSong
  def initialize(number, frames) = (@number, @frames = number, frames)
  def lanes = 1
  def rate = 48_000
  def bits = 32
  def close = nil

  def bytes(from, count, _into = nil)
    Numo::SFloat.new((@frames - from).clamp(0, count)).fill(@number / 100.0).to_binary
  end
end

# What should be heard, kept beside the deck in the plainest way.
WantedOfDeck = Struct.new(:loaded, :following, :state, :begins, :jumps)

# Seeded sequences of everything that can happen to a deck, held against what was asked for: nothing plays that nobody asked for, and nothing
# that was asked for stays silent. Each song's samples tell which song they are.
RSpec.describe Loomshuttle::Player::Deck do # in any order of commands
  def song(number, follows)
    short(frames: frames, id: format("00000000-0000-4000-8000-%012d", number), sections: [], stems: [stem(1, "Strings", frames: frames)], follows: follows, pause: 0.03)
  end

  def made(number, follows)
    one = song(number, follows)
    stock = Loomshuttle::Player::Stock.new(one, "/nowhere", open: ->(_) { NumberedSong.new(number, frames) })
    nil while stock.fill
    loaded(one, item: number, stock: stock)
  end

  let(:block) { 480 }
  let(:frames) { 9600 }
  let(:songs) { (1..6).to_h { |number| [number, %w[hand on pause].to_h { |follows| [follows, made(number, follows)] }] } }

  def sequence(seed)
    random = Random.new(seed)
    deck = described_class.new(rate: 48_000, outputs: 1, on_end: ->(_) {})
    wanted = WantedOfDeck.new(nil, nil, :none, nil, false)
    20.times { step(deck, wanted, random, seed) }
  end

  def step(deck, wanted, random, seed)
    case random.rand(12)
    when 0, 1 then one = songs[random.rand(1..6)].values.sample(random: random).then { |loaded| load(deck, wanted, loaded) }
    when 2 then follow(deck, wanted, random.rand(4).zero? ? nil : songs[random.rand(1..6)].values.sample(random: random))
    when 3, 4 then play(deck, wanted)
    when 5 then ask(deck, "stop") { silence(wanted, 480) }
    when 6 then ask(deck, "fade", seconds: 0.02) { silence(wanted, 960) }
    when 7 then ask(deck, "panic") { silence(wanted, 240) }
    when 8 then ask(deck, "jump", section: 0, at_next: "beat") { wanted.jumps = true } if wanted.state == :playing
    when 9 then take_back(deck, wanted)
    when 10 then deck.at([random.rand(1 << 32), deck.time - 3000, 0].sample(random: random))
    end
    hold(deck, wanted, random.rand(1..6), "seed #{seed}")
    one
  end

  def ask(deck, what, **with)
    deck.command(what, **with)
    yield if block_given?
  rescue Loomshuttle::Invalid
    nil
  end

  def load(deck, wanted, loaded)
    deck.load(loaded)
    wanted.loaded, wanted.state, wanted.begins = loaded, :quiet, nil
  rescue Loomshuttle::Invalid
    expect(wanted.state).to eq(:playing).or eq(:falling)
  end

  def follow(deck, wanted, loaded)
    deck.follow_with(loaded)
    wanted.following = loaded
    wanted.state = :quiet if wanted.state == :pausing && loaded.nil?
  end

  def play(deck, wanted)
    deck.command("play")
    wanted.state, wanted.jumps = :playing, false
  rescue Loomshuttle::Invalid
    expect(wanted.state).to eq(:playing).or eq(:none)
  end

  def silence(wanted, frames)
    wanted.begins = frames if wanted.state == :playing
    wanted.begins = [wanted.begins, frames].max if wanted.state == :falling && wanted.begins
    wanted.state = { playing: :falling, pausing: :quiet }.fetch(wanted.state, wanted.state)
  end

  # Takes a pause back, and a jump, which is of no concern here.
  def take_back(deck, wanted)
    deck.command("take.back")
    wanted.state = :quiet if wanted.state == :pausing
  rescue Loomshuttle::Invalid
    nil
  end

  # Lets some blocks pass, and looks at each.
  def hold(deck, wanted, blocks, words)
    blocks.times do
      left = deck.state == :pausing && wanted.state == :playing ? frames : deck.left # it begins with this block
      heard = (deck.render(block)[0, true] * 100).round.to_a.map(&:to_i).uniq - [0]
      number = wanted.loaded&.item
      case wanted.state
      when :playing then playing(wanted, deck, heard, left, words)
      when :falling then falling(wanted, deck, heard, number, words)
      when :pausing then pausing(wanted, heard, words)
      else expect(heard).to eq([]), "#{words}: #{heard} plays, and nobody asked for it"
      end
    end
  end

  # The first block and the last of a song may be short; crossfades are of the song itself.
  def playing(wanted, deck, heard, left, words)
    number = wanted.loaded.item
    expect(heard.max).to eq(number), "#{words}: song #{number} was asked for, and #{heard.inspect} is heard" if left > 2 * block
    return if left > block
    return wanted.jumps = false if wanted.jumps && deck.left > left && deck.loaded.equal?(wanted.loaded) # back to its beginning

    goes_on = { "on" => 0, "pause" => 1440 }[wanted.loaded.song.follows]
    return wanted.state = :quiet unless goes_on && wanted.following

    wanted.state, wanted.begins = :pausing, goes_on - (block - left)
    start_following(wanted) if wanted.begins.negative?
  end

  def falling(wanted, deck, heard, number, words)
    expect(heard - (0..number).to_a).to eq([]), words
    wanted.begins -= block
    wanted.state = :quiet if wanted.begins <= 0 || !deck.playing?
  end

  def pausing(wanted, heard, words)
    number = wanted.following.item
    wanted.begins -= block
    expect(heard - [number]).to eq([]), words
    return expect(heard).to eq([]), "#{words}: it begins before its pause is over" if wanted.begins >= 0

    expect(heard).to eq([number]), "#{words}: #{number} should have started automatically"
    start_following(wanted)
  end

  def start_following(wanted)
    wanted.loaded, wanted.following, wanted.state, wanted.begins = wanted.following, nil, :playing, nil
    wanted.jumps = false
  end

  it "plays what was asked for and nothing else, in 5,000 sequences" do
    (1..5000).each { |seed| sequence(seed) }
  end
end
