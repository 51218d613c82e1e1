# frozen_string_literal: true

# The rate of samples by the time on the wall, from packets that come late now and then, as they do on a busy machine.
RSpec.describe Loomshuttle::Recorder::Pace do
  let(:pace) { described_class.new(48_000) }

  # @param hertz [Numeric] as fast as the clock really is   @param late [Range] seconds that a packet of a millisecond comes late
  def run(hertz, seconds, late: 0.0..0.02, random: Random.new(1), from: 0)
    (seconds * 1000).times { |nth| pace.note(from + (nth / 1000.0) + random.rand(late), (nth * hertz / 1000.0).floor) }
  end

  [48_000, 47_976, 48_096, 44_100].each do |hertz|
    it "tells #{hertz} Hz within a hundredth of a per cent though packets come late" do
      run(hertz, 70)
      expect(pace.hz).to be_within(hertz * 0.0001).of(hertz)
    end
  end

  it "tells nothing before half a minute, and begins again where the sender did" do
    run(48_000, 25)
    expect(pace.hz).to be_nil
    run(48_000, 40)
    expect(pace.hz).not_to be_nil
    pace.restart
    run(48_000, 20, from: 50)
    expect(pace.hz).to be_nil
  end

  it "takes samples that come in fits for no clock" do
    run(9600, 70)
    expect(pace.hz).to be_nil
  end

  it "keeps no more than a minute" do
    run(48_000, 200)
    expect(pace.instance_variable_get(:@seconds).size).to eq(described_class::WINDOW)
  end
end
