# frozen_string_literal: true

RSpec.describe Loomshuttle::StandIns::Desk::StepClock do
  let(:steps) { described_class.new(0.01, 100.0) }

  # Begins steps when they are due. @return [Float] when the last one was
  def run(count) = Array.new(count) { steps.due.tap { |due| steps.begin(due) } }.last

  it "keeps even time, however little late each step is" do
    1000.times { steps.begin(steps.due + 0.0015) }
    expect(steps.due).to be_within(1e-6).of(110.01)
  end

  it "catches up with what held it up, a fifth of a step at a time" do
    steps.begin(100.5)
    expect(steps.due).to be_within(1e-6).of(100.508)
    run(300)
    expect(run(1)).to be_within(1e-6).of(103.02)
  end

  it "does not catch up with more than a second" do
    steps.begin(110.0)
    run(1000)
    expect(run(1)).to be_within(1e-6).of(119.01)
  end
end
