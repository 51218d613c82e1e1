# frozen_string_literal: true

# Ctrl-C, as the start command hears it.
RSpec.describe Loomshuttle::Supervisor::Demo do
  let(:told) { [] }
  let(:on_take) { [31] }
  let(:demo) do
    described_class.allocate.tap do |one|
      one.instance_variable_set(:@ports, Loomshuttle::Supervisor::Ports.new(web: 4040))
      allow(one).to receive(:tell) { |words| told << words }
      allow(one).to receive(:ask) { on_take.first && { "positions" => { "take" => on_take.first } } }
    end
  end

  def stops? = demo.send(:interrupted).then { demo.instance_variable_get(:@stopped) == true }
  def at(seconds) = allow(Loomshuttle::Runtime::Clock).to receive(:now).and_return(seconds)

  it "asks first while channels are on take, and says what to do; a second one within a minute quits" do
    at(1000.0)
    expect(stops?).to be(false)
    expect(told).to match([/31 channels are on take.*Return to stage.*quits all the same/])
    at(1061.0)
    expect(stops?).to be(false)
    at(1070.0)
    expect(stops?).to be(true)
  end

  it "quits at once where all is on stage, or where nobody can tell" do
    at(1000.0)
    on_take.replace([0])
    expect([stops?, told]).to eq([true, []])
    on_take.replace([nil])
    expect(stops?).to be(true)
  end
end
