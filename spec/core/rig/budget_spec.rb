# frozen_string_literal: true

RSpec.describe Loomshuttle::Rig::DiskBudget do
  it "counts 144 kB a second for a 48 kHz 24-bit lane" do
    expect(described_class.bytes_a_second(lanes: 1, rate: 48_000, bits: 24)).to eq(144_000)
  end

  it "gives the time above the reserve, and grows as tracks are disarmed" do
    free = described_class::RESERVE_BYTES + (144_000 * 16 * 3600)
    expect(described_class.seconds(free_bytes: free, lanes: 16, rate: 48_000, bits: 24)).to eq(3600.0)
    expect(described_class.seconds(free_bytes: free, lanes: 8, rate: 48_000, bits: 24)).to eq(7200.0)
  end

  it "is nothing on a full disk, and not told without tracks" do
    expect(described_class.seconds(free_bytes: 1000, lanes: 1, rate: 48_000, bits: 24)).to eq(0)
    expect(described_class.seconds(free_bytes: 10**12, lanes: 0, rate: 48_000, bits: 24)).to be_nil
  end
end

RSpec.describe Loomshuttle::Timing::Latency do
  # common practice, no published source
  it "counts 1024 samples at 48 kHz as 21.3 ms each way and 42.7 ms in all" do
    trip = described_class.round_trip(buffer: 1024, rate: 48_000)
    expect(trip.transform_values { |ms| ms.round(1) }).to eq(in: 21.3, out: 21.3, total: 42.7)
  end
end
