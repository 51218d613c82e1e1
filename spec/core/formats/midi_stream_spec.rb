# frozen_string_literal: true

# Bytes as the MIDI 1.0 Detailed Specification has them.
RSpec.describe Loomshuttle::Formats::MidiStream do
  def told(*bytes) = described_class.new.push(bytes.pack("C*")).map { |message| [message.name, message.down] }

  it "understands notes, controllers and programs, on and off" do
    expect(told(0x90, 60, 100, 0x80, 60, 0, 0xb2, 64, 127, 0xb2, 64, 0, 0xc0, 5)).to eq(
      [["note 60 ch 1", true], ["note 60 ch 1", false], ["control 64 ch 3", true], ["control 64 ch 3", false], ["program 5 ch 1", true]]
    )
  end

  it "takes a status that is left out as the one before, and a note on without force as off" do
    expect(told(0x91, 60, 100, 60, 0, 61, 1)).to eq([["note 60 ch 2", true], ["note 60 ch 2", false], ["note 61 ch 2", true]])
  end

  it "steps over clocks in the middle, system exclusive, pitch bends, and what begins nowhere" do
    expect(told(12, 13, 0xf0, 1, 2, 3, 0xf7, 0xb0, 0xf8, 64, 0xfe, 127, 0xe0, 0, 64, 0xd0, 9)).to eq([["control 64 ch 1", true]])
  end

  it "is the same however the bytes come" do
    bytes = Random.new(4).bytes(4000)
    whole = described_class.new.push(bytes)
    stream = described_class.new
    expect(bytes.each_char.flat_map { |byte| stream.push(byte) }).to eq(whole)
    expect(whole.size).to be > 100
  end
end
