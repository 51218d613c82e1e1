# frozen_string_literal: true

# The streams of a card are read in turns. While one is read ahead of the others, theirs count as missing once they are further behind than the
# recorder waits for a packet: with 19 at once, and a desk that sent ten of a stream before the next one's, a millisecond was lost.
RSpec.describe "A turn of packets" do
  it "is shorter than a packet is waited for, with some to spare for streams that are sent one after the other" do
    turn = Loomshuttle::Recorder::UdpCard::TURN / 1000.0
    expect(Loomshuttle::Recorder::Engine::WAIT - turn).to be >= 0.004
  end
end
