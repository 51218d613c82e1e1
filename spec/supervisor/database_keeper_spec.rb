# frozen_string_literal: true

RSpec.describe Loomshuttle::Supervisor::DatabaseKeeper do
  let(:postgres) { instance_double(Loomshuttle::Supervisor::Postgres, start: nil, url: "postgres://x", made?: true, gone?: false, alive?: true, stop: nil) }
  let(:told) { [] }
  let(:keeper) { described_class.new(postgres, tell: ->(words) { told << words }) }
  let(:rests) { [] }
  let(:worker) { Object.new.tap { |one| rests.then { |list| one.define_singleton_method(:rest) { |seconds| list << seconds } } } }

  before { allow(Loomshuttle::Supervisor::Seed).to receive(:run) }

  def look = keeper.send(:look, worker)

  it "starts it and puts the shows in, once" do
    allow(postgres).to receive(:watch).and_return(nil)
    keeper.begin
    3.times { look }
    expect(Loomshuttle::Supervisor::Seed).to have_received(:run).once
    expect([keeper.report, told]).to eq([{ "name" => "database", "state" => "running", "words" => nil }, []])
  end

  it "goes on without one that does not start now, and ends where none can be made" do
    allow(postgres).to receive(:start).and_raise(Loomshuttle::Supervisor::Failed, "It is broken.")
    keeper.begin
    expect(keeper.report).to include("state" => "given up", "words" => "It is broken.")
    allow(postgres).to receive(:made?).and_return(false)
    expect { keeper.begin }.to raise_error(Loomshuttle::Supervisor::Failed)
  end

  it "waits ever longer while it does not start, says so once, and forgets that when it runs again" do
    pauses = []
    allow(postgres).to receive(:alive?).and_return(false)
    allow(postgres).to receive(:watch) { |pause| pauses << pause and "It does not start." }
    8.times { look }
    expect(pauses).to eq(pauses.sort).and have_attributes(last: described_class::LONGEST)
    expect(pauses.uniq.size).to be > 2
    expect(told).to eq(["It does not start. It is tried again; everything but the plan works on."])
    allow(postgres).to receive(:alive?).and_return(true)
    2.times { look }
    expect(pauses.last).to eq(pauses.first)
    expect(keeper.report).to include("state" => "running")
    expect(rests.uniq).to eq([described_class::LOOK])
  end

  it "puts the shows in later where the database did not answer at first" do
    allow(postgres).to receive(:watch).and_return(nil)
    calls = 0
    allow(Loomshuttle::Supervisor::Seed).to receive(:run) { (calls += 1) == 1 ? raise(Sequel::DatabaseConnectionError, "no") : nil }
    keeper.begin
    expect(keeper.report["words"]).to eq("The database does not answer: no")
    2.times { look }
    expect(calls).to eq(2)
  end
end
