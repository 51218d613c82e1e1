# frozen_string_literal: true

RSpec.describe Loomshuttle::Audio::Pcm24 do
  let(:block) { Numo::Int32[[0, 1], [-1, 8_388_607], [-8_388_608, 256], [-257, 65_536]] }

  it "writes big-endian for the network and little-endian for files" do
    expect(described_class.to_network(block[0..1, true]).unpack("C*")).to eq([0, 0, 0, 0, 0, 1, 255, 255, 255, 127, 255, 255])
    expect(described_class.to_wav(block[0..0, true]).unpack("C*")).to eq([0, 0, 0, 1, 0, 0])
  end

  it "reads back what it wrote, at both ends of the range" do
    expect(described_class.from_network(described_class.to_network(block), 2)).to eq(block)
    expect(described_class.from_wav(described_class.to_wav(block), 2)).to eq(block)
  end

  it "reads and writes every sample, whatever is in memory" do
    random = Numo::Int32.cast(Numo::DFloat.new(500, 8).rand(-8_388_608, 8_388_607))
    20.times { expect(described_class.from_network(described_class.to_network(random), 8)).to eq(random) }
    expect(described_class.from_wav(described_class.to_wav(random), 8)).to eq(random)
    expect(Numo::SFloat.from_binary(described_class.to_float32(random)) * 8_388_608).to eq(random.flatten)
  end

  it "packs streams of some lanes each together as it packs each alone, at every edge of a sample" do
    edges = [0, 1, -1, 8_388_607, -8_388_608, 255, -256, 65_535, -65_536, 0x123456]
    rows = Numo::Int32.cast(Array.new(24) { |lane| Array.new(50) { |at| edges[((lane * 7) + at) % edges.size] } })
    [8, 6, 1].each do |lanes|
      alone = (0...24).each_slice(lanes).map { |some| described_class.to_network(rows[some, true].transpose.dup) }
      expect(described_class.rows_to_network(rows, lanes)).to eq(alone)
    end
  end

  it "limits what is beyond full scale, says where, and leaves the rest as it is" do
    block = Numo::SFloat[[0.5, 1.5, -1.0], [-2.0, 0.0, 0.25]]
    where = nil
    expect(described_class.limit(block) { |beyond| where = beyond.where.to_a }).to eq(Numo::Int32[[4_194_304, 8_388_607, -8_388_608], [-8_388_608, 0, 2_097_152]])
    expect(where).to eq([1, 3])
    expect { |told| described_class.limit(block / 4, &told) }.not_to yield_control
  end

  it "gives every integer back after a way through floats" do
    values = (Numo::Int32.new(100_000).seq.reshape(50_000, 2) * 167) - 8_388_608
    expect(described_class.from_float(described_class.to_float(values))).to eq(values)
  end

  it "clips at full scale" do
    expect(described_class.from_float(Numo::DFloat[[1.5, -1.5]]).to_a).to eq([[8_388_607, -8_388_608]])
  end
end

RSpec.describe Loomshuttle::Audio::Level do
  # AES17-2020, 3.12.3: decibels, full scale: the RMS of a full-scale 997 Hz sine is 0 dB FS (from memory of the standard)
  it "reads 0 dBFS RMS and 0 dBFS peak for a full-scale sine" do
    expect(described_class.rms(sine(frames: 48_000)).first).to be_within(0.001).of(0)
    expect(described_class.peak(sine(frames: 48_000)).first).to be_within(0.001).of(0)
  end

  it "reads 3.01 dB more for a full-scale square" do
    square = Numo::DFloat.ones(4800, 1)
    square[(0...4800).step(2), 0] = -1.0
    expect(described_class.rms(square).first).to be_within(0.001).of(3.0103)
  end

  it "reads -20 dBFS for a tenth, in floats and in integers" do
    wave = sine(frames: 48_000, amplitude: 0.1)
    [wave, Loomshuttle::Audio::Pcm24.from_float(wave)].each do |block|
      expect(described_class.rms(block).first).to be_within(0.001).of(-20)
      expect(described_class.peak(block).first).to be_within(0.01).of(-20)
    end
  end

  it "reads each lane for itself, and silence as its floor" do
    block = Numo::Int32[[0, 4_194_304], [0, -8_388_608]]
    expect(described_class.peak(block)).to eq([-144.0, 0.0])
    expect(described_class.rms(block).first).to eq(-144.0)
  end

  it "gathers the same figures over blocks as over the whole" do
    wave = sine(frames: 9600, amplitude: 0.3)
    sum = Loomshuttle::Audio::LevelSum.new(1)
    [0...1000, 1000...5000, 5000...9600].each do |rows|
      part = wave[rows, true]
      sum.add(part.shape[0], described_class.peak_amplitudes(part), described_class.mean_squares(part))
    end
    expect(sum.rms_dbfs([0])).to be_within(1e-9).of(described_class.rms(wave).first)
    expect(sum.peak_dbfs([0])).to eq(described_class.peak(wave).first)
  end
end
