# frozen_string_literal: true

RSpec.describe Loomshuttle::Web::Desk::EditQueue do
  let(:done) { Queue.new }
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
  let(:follower) { described_class.new(sync, on_done: ->(problems) { done << problems }).tap(&:start) }
  let(:shows) { [straight(4), set(straight(4), "channel/1/name" => "A"), set(straight(4), "channel/1/name" => "B")] }

  after { follower.stop }

  it "lets nobody wait, and follows edit by edit in order" do
    jobs = shows.each_cons(2).map { |before, after| follower.follow(before, after) }
    expect(follower).to be_pending
    2.times { gate << [] }
    jobs.each { |job| job.wait(60) }
    expect(Array.new(2) { followed.pop }).to eq(shows.each_cons(2).to_a)
    Tools.wait_until(60, "all followed") { !follower.pending? }
  end

  it "tells who waits what the desk did not take" do
    job = follower.follow(*shows.first(2))
    gate << ["strip/1/label: refused"]
    expect(job.wait(60)).to eq(["strip/1/label: refused"])
    expect(done.pop).to eq(["strip/1/label: refused"])
  end

  it "goes on after something went wrong, and says so" do
    jobs = [follower.follow(*shows.first(2)), follower.follow(*shows.last(2))]
    gate << IOError.new("line cut") << []
    expect { expect(jobs.map { |job| job.wait(60) }).to eq([["The desk could not follow: line cut"], []]) }.to output(/line cut/).to_stderr
  end

  it "lets nobody wait longer than he wants, and says the truth then" do
    job = follower.follow(*shows.first(2), soon: true)
    expect(job.wait(0.05)).to eq(["The desk did not confirm within 0.1 s. Compare plan and desk."])
    gate << []
    expect(done.pop).to eq([])
  end

  it "does first what is wanted now" do
    order = Queue.new
    gate << [] << []
    blocked = follower.now { gate.pop && sleep(0.05) && [] }
    waiting = follower.follow(*shows.first(2))
    first = follower.now { (order << :first) && ["said"] }
    expect([blocked.wait(60), first.wait(60)]).to eq([[], ["said"]])
    expect(order.pop).to eq(:first)
    expect(waiting.wait(60)).to eq([])
  end
end

RSpec.describe Loomshuttle::Web::PlanSender do
  let(:told) { Queue.new }
  let(:away) { [] }
  let(:follower) { described_class.new(-> { (told << 1) && away.shift && raise(Loomshuttle::Away, "gone") }).tap(&:start) }

  before { stub_const("#{described_class}::AGAIN", 0.05) }
  after { follower.stop }

  it "tells the newest once it is woken, and lets nobody wait longer than he wants" do
    follower.follow(wait: 60)
    expect(told.size).to eq(1)
  end

  it "tries again while the recorder is away" do
    away.push(true, true)
    follower.follow(wait: 60)
    expect(told.size).to eq(3)
  end
end
