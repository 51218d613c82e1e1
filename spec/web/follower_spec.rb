# frozen_string_literal: true

RSpec.describe Loomshuttle::Web::Follower do
  let(:done) { Queue.new }
  let(:configured) { Queue.new }
  let(:gate) { Queue.new }
  let(:followed) { Queue.new }
  let(:sync) do
    Class.new do
      def initialize(gate, followed) = (@gate, @followed = gate, followed)

      def follow(before, after)
        answer = @gate.pop
        @followed << [before, after]
        raise answer if answer.is_a?(Exception)

        answer
      end
    end.new(gate, followed)
  end
  let(:follower) { described_class.new(sync, recorder: ->(show) { configured << show }, on_done: ->(problems) { done << problems }).tap(&:start) }
  let(:shows) { [straight(4), set(straight(4), "channel/1/name" => "A"), set(straight(4), "channel/1/name" => "B")] }

  after { follower.stop }

  it "lets nobody wait, and follows edit by edit in order" do
    jobs = shows.each_cons(2).map { |before, after| follower.follow(before, after) }
    expect(follower).to be_pending
    2.times { gate << [] }
    jobs.each(&:wait)
    expect(Array.new(2) { followed.pop }).to eq(shows.each_cons(2).to_a)
    Tools.wait_until(60, "all followed") { !follower.pending? }
  end

  it "tells who waits what the desk did not take" do
    job = follower.follow(*shows.first(2))
    gate << ["strip/1/label: refused"]
    expect(job.wait).to eq(["strip/1/label: refused"])
    expect(done.pop).to eq(["strip/1/label: refused"])
  end

  it "goes on after something went wrong, and says so" do
    allow(follower).to receive(:warn)
    jobs = [follower.follow(*shows.first(2)), follower.follow(*shows.last(2))]
    gate << IOError.new("line cut") << []
    expect(jobs.map(&:wait)).to eq([["The desk could not follow: line cut"], []])
  end

  it "configures the recorder for what it needs to know, and only then" do
    gate << [] << []
    follower.follow(shows[0], shows[1]).wait
    expect(configured.pop).to equal(shows[1])
    moved = set(shows[1], "box/a/profile" => "bramble-16")
    follower.follow(shows[1], moved).wait
    expect(configured).to be_empty
  end
end
