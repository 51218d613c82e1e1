# frozen_string_literal: true

RSpec.describe Loomshuttle::Formats::Wav::Cues, :folder do
  # Little-endian: "RIFF", "fmt " of one lane of 8 bits at 8 kHz, eight samples, two places, and a label for the second.
  let(:whole) do
    ["52494646 70000000 57415645 666d7420 10000000 0100 0100 401f0000 401f0000 0100 0800 64617461 08000000 8080808080808080" \
     "63756520 34000000 02000000 01000000 06000000 64617461 00000000 00000000 06000000 02000000 02000000 64617461 00000000 00000000 02000000" \
     "4c495354 18000000 6164746c 6c61626c 0a000000 02000000 56657273 6500"].map { |hex| [hex.delete(" ")].pack("H*") }.join
  end

  def read(bytes) = File.join(@folder, "a.wav").then { |path| File.binwrite(path, bytes) && described_class.of(path) }

  it "tells places in order, with their names" do
    expect(read(whole)).to eq([[Rational(2, 8000), "Verse"], [Rational(6, 8000), ""]])
  end

  it "tells none where there are none, or where they are not cues" do
    expect(read(whole.byteslice(0, 52))).to eq([])
    expect(read("nothing")).to eq([])
    (0..whole.bytesize).each { |cut| expect(read(whole.byteslice(0, cut))).to be_an(Array) }
    expect(read(whole.sub("cue \x34".b, "cue \xff".b).sub("\x02\0\0\0\x01".b, "\xff\xff\xff\x7f\x01".b))).to be_an(Array)
  end
end
