# frozen_string_literal: true

# 64 lanes of 32 bits: three times what a pipe takes at once.
RSpec.describe Loomshuttle::Recorder::Alsa::Playout do
  let(:lanes) { 64 }
  let(:playout) { described_class.new(most: 100_000) }
  let(:ends) { IO.pipe.tap { |read, _| read.binmode } }
  let(:random) { Random.new(6) }

  after { ends.each(&:close) }

  # A frame whose lanes all tell its number.
  def period(number) = ([number] * (48 * lanes)).pack("V*")

  it "keeps frames and lanes in their places, however little is taken at once, and loses whole periods only" do
    ends.last.fcntl(1031, 4096) # F_SETPIPE_SZ, Linux
    got = "".b
    taken = (1..400).select do |number|
      played = playout.offer(period(number), ends.last)
      random.rand(40).times { got << ends.first.read_nonblock(random.rand(1..900), exception: false).then { |part| part.is_a?(String) ? part : "" } } if number > 100
      played
    end
    heard = got.unpack("V*")
    expect(heard.each_slice(48 * lanes).map(&:uniq).reject { |numbers| numbers.size == 1 }).to eq([])
    expect(heard.each_slice(48 * lanes).map(&:first)).to eq(taken.first(heard.size.fdiv(48 * lanes).ceil))
    expect(playout.lost).to eq(400 - taken.size).and be > 10
  end

  it "begins another pipe with a whole frame" do
    ends.last.fcntl(1031, 4096)
    5.times { |number| playout.offer(period(number), ends.last) }
    playout.clear
    other = IO.pipe
    playout.offer(period(9), other.last)
    expect(other.first.readpartial(4).unpack1("V")).to eq(9)
    other.each(&:close)
  end
end
