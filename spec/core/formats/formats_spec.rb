# frozen_string_literal: true

RSpec.describe Loomshuttle::Formats::Osc do
  # Open Sound Control 1.0 specification (M. Wright, 2002), "OSC Message Examples"
  {
    ["/oscillator/4/frequency", 440.0] => "2f6f7363696c6c61746f722f342f6672657175656e6379002c66000043dc0000",
    ["/foo", 1000, -1, "hello", 1.2339999675750732, 5.678] => "2f666f6f000000002c69697366660000000003e8ffffffff68656c6c6f0000003f9df3b640b5b22d"
  }.each do |(address, *arguments), hex|
    it "packs and unpacks the specification's #{address}" do
      expect(described_class.pack(address, *arguments).unpack1("H*")).to eq(hex)
      message = described_class.unpack([hex].pack("H*")).first
      expect(message.address).to eq(address)
      expect(message.arguments.zip(arguments)).to all(satisfy { |got, sent| sent.is_a?(Float) ? (got - sent).abs < 1e-6 : got == sent })
    end
  end

  it "carries every kind of plain value" do
    sent = [1, -1, 2**40, 0.5, "Prüf", "\x00\xff".b, true, false, nil]
    expect(described_class.unpack(described_class.pack("/x", *sent)).first.arguments).to eq(sent)
  end

  it "opens bundles, also within bundles" do
    inner = described_class.pack("/b", 2)
    bundle = ->(*parts) { "#bundle\0".b + ("\0" * 8) + parts.map { |part| [part.bytesize].pack("N") + part }.join }
    packet = bundle.call(described_class.pack("/a", 1), bundle.call(inner))
    expect(described_class.unpack(packet).map(&:address)).to eq(%w[/a /b])
  end

  ["abc", "abcd", "/x\0\0,i\0\0", "/x\0\0xi\0\0\0\0\0\1", "/x\0\0,q\0\0", "/xyz", "#bundle\0#{"\0" * 8}\0\0\1\0"].each do |bytes|
    it "refuses #{bytes.inspect}" do
      expect { described_class.unpack(bytes) }.to raise_error(described_class::Malformed)
    end
  end
end

RSpec.describe Loomshuttle::Formats::Rtp do
  it "writes the header of RFC 3550, 5.1" do
    bytes = described_class.pack(sequence: 65_537, timestamp: (2**32) + 5, source: 0xdeadbeef, payload: "abc".b)
    expect(bytes.unpack("CCnNN")).to eq([0x80, 97, 1, 5, 0xdeadbeef])
    expect(described_class.unpack(bytes).to_h).to include(sequence: 1, timestamp: 5, source: 0xdeadbeef, payload: "abc")
  end

  it "steps over contributing sources, an extension, and padding" do
    header = [0x80 | 0x20 | 0x10 | 2, 97, 1, 2, 3].pack("CCnNN")
    bytes = "#{header}#{[7, 8].pack('NN')}#{[0xbede, 1].pack('nn')}XXXXaudio!#{"\0\0\3".b}"
    expect(described_class.unpack(bytes).payload).to eq("audio!")
  end

  it "takes no other version, and nothing too short" do
    expect(described_class.unpack("\x40#{"\0" * 11}".b)).to be_nil
    expect(described_class.unpack("short")).to be_nil
    expect(described_class.unpack(([0x8f] + ([0] * 11)).pack("C*"))).to be_nil
  end

  it "counts over the wrap, either way" do
    expect(described_class.distance(65_535, 2, 65_536)).to eq(3)
    expect(described_class.distance(2, 65_535, 65_536)).to eq(-3)
  end
end

RSpec.describe Loomshuttle::Formats::Sdp do
  let(:streams) do
    [[1, 8], [9, 8], [17, 4]].map do |first, lanes|
      described_class::Stream.new(host: "127.0.0.1", port: 5000 + first, lanes: lanes, first: first, rate: 48_000, payload_type: 97)
    end
  end

  it "reads back what it wrote" do
    expect(described_class.read(described_class.write("card", streams, session: 4))).to eq(streams)
  end

  it "writes the lines of RFC 8866 with the L24 mapping of RFC 3190" do
    text = described_class.write("card", streams.first(1), session: 4)
    expect(text).to start_with("v=0\r\no=- 4 4 IN IP4 127.0.0.1\r\ns=card\r\n").and include("m=audio 5001 RTP/AVP 97\r\n", "a=rtpmap:97 L24/48000/8\r\n")
  end

  it "counts lanes on where a description does not name them" do
    text = described_class.write("card", streams, session: 4).gsub(/^i=.*\r\n/, "")
    expect(described_class.read(text).map(&:first)).to eq([1, 9, 17])
  end

  it "refuses another encoding" do
    expect { described_class.read("v=0\r\nm=audio 5 RTP/AVP 0\r\na=rtpmap:0 PCMU/8000\r\n") }.to raise_error(Loomshuttle::Invalid, /not RTP L24/)
  end
end

RSpec.describe Loomshuttle::Formats::Wav, :folder do
  let(:path) { File.join(@folder, "data fmt .wav") }
  let(:bext) do
    Loomshuttle::Formats::Bext.new(description: "data fmt Fiddle", originator: "Loomshuttle", reference: "r1", date: "2026-06-13", time: "20:30:00",
                                   time_reference: (48_000 * 73_800) + (2**33), history: "A=PCM,F=48000,W=24,M=mono")
  end
  let(:samples) { Numo::Int32.cast(Numo::DFloat.new(1001, 1).rand(-8_388_608, 8_388_607)) }

  def written
    writer = described_class::Writer.new(path, bext: bext)
    writer.write(Loomshuttle::Audio::Pcm24.to_wav(samples))
    yield writer if block_given?
    writer
  end

  it "reads back samples and every field, also when words in it look like chunks" do
    written.close
    reader = described_class::Reader.new(path)
    expect([reader.lanes, reader.rate, reader.bits, reader.frames]).to eq([1, 48_000, 24, 1001])
    expect(reader.bext).to eq(bext)
    expect(reader.read).to eq(samples)
    expect(reader.read(990, 100)).to eq(samples[990..1000, true])
  end

  it "opens before it is closed, as far as the header was refreshed" do
    written(&:refresh).write("\1\2\3".b)
    expect(described_class::Reader.new(path).frames).to eq(1001)
  end

  it "never writes over a file" do
    File.write(path, "precious")
    expect { described_class::Writer.new(path, bext: bext) }.to raise_error(Errno::EEXIST)
    expect(File.read(path)).to eq("precious")
  end

  # Holes cost nothing, so a file of more than 4 GiB is made in no time.
  it "becomes RF64 when it outgrows RIFF, and is mended and read as such" do
    writer = written { |one| one.rest(1_431_655_800) }
    writer.write(Loomshuttle::Audio::Pcm24.to_wav(samples))
    writer.refresh
    expect(File.binread(path, 16)).to match(/\ARF64\xFF\xFF\xFF\xFFWAVEds64/n)
    total = 1001 + 1_431_655_800 + 1001
    expect(described_class::Reader.new(path).frames).to eq(total)
    File.open(path, "ab") { |file| file.write("\1" * 700) }
    described_class::Mend.cut(path, total - 1)
    reader = described_class::Reader.new(path)
    expect([reader.frames, reader.read(total - 1001, 2000)]).to eq([total - 1, samples[0...1000, true]])
    described_class::Mend.cut(path, 1001)
    expect(described_class::Reader.new(path).read).to eq(samples)
    expect(File.binread(path, 16)).to match(/\ARIFF....WAVEJUNK/mn)
    expect(File.stat(path).blocks * 512).to be < 1_000_000
  end

  it "writes 32-bit float that gives the same samples back" do
    writer = described_class::Writer.new(path, bext: bext, bits: 32)
    writer.write(Loomshuttle::Audio::Pcm24.to_float32(samples))
    writer.close
    reader = described_class::Reader.new(path)
    expect([reader.bits, reader.frames, reader.read]).to eq([32, 1001, samples])
  end

  it "mends a file that was cut off in the middle of a frame" do
    written.refresh
    File.open(path, "ab") { |file| file.write("\1\2\3\4\5") }
    expect(described_class::Mend.frames_on_disk(path)).to eq(1002)
    described_class::Mend.cut(path, 1000)
    expect(described_class::Reader.new(path).read).to eq(samples[0...1000, true])
    expect(File.size(path)).to eq(File.binread(path, 4, 4).unpack1("V") + 8)
  end

  ["", "RIFFxxxxWAVE", "not a wav at all"].each do |content|
    it "says that #{content.inspect} is not a WAV file" do
      File.binwrite(path, content)
      expect { described_class::Reader.new(path) }.to raise_error(Loomshuttle::Invalid, /data fmt .wav (is not a WAV file|has no samples)/)
    end
  end
end
