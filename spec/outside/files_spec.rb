# frozen_string_literal: true

require "csv"
require "json"
require "nokogiri"

# Captured files as other programs see them.
RSpec.describe "Captured files, read by others", :folder do
  before do
    rig = VirtualRig.new(home: @folder).patch_straight(4)
    rig.run(0.2)
    rig.recorder.capture_start(name: "Outside", frames: 96_000)
    rig.run(0.5)
    rig.recorder.mark(name: "Reel", kind: "begin")
    rig.run(0.5)
    rig.recorder.mark(name: "Stop")
    rig.run(0.5)
    rig.recorder.mark(kind: "end")
    rig.run(0.7)
    folder, @manifest = Loomshuttle::Recorder::Manifest.all(rig.recorder.takes).first
    @files = @manifest["tracks"].map { |track| File.join(folder, track["file"]) }
  end

  it "is Broadcast WAV for libsndfile, with the fields of EBU Tech 3285" do
    text = Tools.run("sndfile-info", "--broadcast", @files[0])
    expect(text).to match(/Description\s*: Track 1, take 1 Outside/)
    expect(text).to match(/Originator\s*: Loomshuttle/)
    expect(text).to match(/Origination date\s*: 2026-06-13/).and match(/Origination time\s*: 20:30:00/)
    expect(text).to match(/Coding history\s*: A=PCM,F=48000,W=24,M=mono,T=Loomshuttle/)
    plain = Tools.run("sndfile-info", @files[0])
    expect(plain).to match(/Sample Rate\s*: 48000/).and match(/Frames\s*: 96000/).and match(/Channels\s*: 1/)
    expect(plain).to match(/Bit Width\s*: 24/)
    # 20:30:00 is 73800 s after midnight; libsndfile writes the samples in hexadecimal digits and the seconds behind them.
    expect(text).to match(/Time ref\s*: 0x0*#{(73_800 * 48_000).to_s(16)} \(73800\.0+ seconds\)/)
  end

  it "has the right rate, depth and length for ffprobe" do
    stream = JSON.parse(Tools.run("ffprobe", "-v", "error", "-of", "json", "-show_streams", @files[1]))["streams"].first
    expect(stream).to include("codec_name" => "pcm_s24le", "sample_rate" => "48000", "channels" => 1, "duration_ts" => 96_000, "bits_per_sample" => 24)
    tags = JSON.parse(Tools.run("ffprobe", "-v", "error", "-of", "json", "-show_format", @files[1])).dig("format", "tags")
    expect(tags).to include("time_reference" => (73_800 * 48_000).to_s, "date" => "2026-06-13")
  end

  it "is known to mediainfo as Broadcast WAV of 2 s" do
    text = Tools.run("mediainfo", "--Output=JSON", @files[2])
    general, audio = JSON.parse(text).dig("media", "track")
    expect(general).to include("Format" => "Wave")
    expect(audio).to include("BitDepth" => "24", "SamplingRate" => "48000", "SamplingCount" => "96000")
    expect(text).to include("Loomshuttle")
  end

  it "has its markers as cue points for libsndfile" do
    text = Tools.run("sndfile-info", @files[0])
    expect(text.scan(/Cue ID :\s+(\d+)\s+Pos : (\d+)/)).to eq([%w[1 24000], %w[2 48000]])
    expect(text.scan(/labl : (\d) : (.*)/)).to eq([%w[1 Reel], %w[2 Stop]])
  end

  # midicsv writes delta times summed up; a tick is a sample at 48 kHz.
  it "has its markers in a Standard MIDI File for midicsv, and in a CSV" do
    rows = Tools.run("midicsv", File.join(@folder, "takes", "0001 Outside", "Outside markers.mid")).lines.map { |line| line.strip.split(", ") }
    expect(rows.find { |row| row[2] == "Header" }.last(3)).to eq(%w[0 1 24000])
    expect(rows.select { |row| row[2] == "Marker_t" }.map { |row| [row[1].to_i, row[3]] }).to eq([[24_000, '"Reel"'], [48_000, '"Stop"'], [72_000, '"end of Reel"']])
    expect(rows).to include(%w[1 0 Tempo 500000])
    csv = CSV.read(File.join(@folder, "takes", "0001 Outside", "Outside markers.csv"))
    expect(csv[1]).to eq(["1", "Reel", "00:00:00.500", "24000", "00:00:01.000", "48000"])
  end

  it "has its track's name in iXML that an XML parser reads" do
    xml = Nokogiri::XML(File.binread(@files[2])[%r{<\?xml.*</BWFXML>}m], &:strict)
    expect(xml.xpath("//TRACK/NAME").map(&:text)).to eq(["Track 3"])
    expect(xml.at("//TIMESTAMP_SAMPLES_SINCE_MIDNIGHT_LO").text.to_i).to eq(73_800 * 48_000)
  end

  it "has the levels that sox measures" do
    @files.each_with_index do |file, at|
      text = Tools.run("sox", file, "-n", "stats")
      peak, rms = text[/Pk lev dB\s+(\S+)/, 1].to_f, text[/RMS lev dB\s+(\S+)/, 1].to_f
      expect(@manifest["tracks"][at]["peak_dbfs"]).to be_within(0.01).of(peak)
      # sox gives plain RMS; AES17 reads 3.01 dB more
      expect(@manifest["tracks"][at]["rms_dbfs"]).to be_within(0.01).of(rms + 3.01)
    end
  end
end

RSpec.describe "Markers and large files, read by others", :folder do
  let(:path) { File.join(@folder, "long.wav") }
  let(:bext) do
    Loomshuttle::Formats::Bext.new(description: "Long", originator: "Loomshuttle", reference: "r", date: "2026-06-13", time: "20:30:00", time_reference: 1,
                                   history: "")
  end

  # A mono file of 48 kHz and 24 bits passes 4 GiB after 8 h 17 min; holes make it in no time.
  def nine_hours(bits)
    writer = Loomshuttle::Formats::Wav::Writer.new(path, bext: bext, bits: bits)
    writer.write("\1\2\3\4" * 1200 * (bits / 8))
    writer.rest((9 * 3600 * 48_000) - writer.frames)
    writer.close
    9 * 3600 * 48_000
  end

  [24, 32].each do |bits|
    it "is valid RF64 of #{bits} bits for libsndfile, mediainfo and ffprobe, with exact sample counts" do
      frames = nine_hours(bits)
      expect(Tools.run("sndfile-info", path)).to include("RF64").and match(/Frames\s*: #{frames}\b/)
      general, audio = JSON.parse(Tools.run("mediainfo", "--Output=JSON", path)).dig("media", "track")
      expect([general["Format_Profile"] || general["Format"], audio["SamplingCount"], audio["BitDepth"]]).to eq(["RF64", frames.to_s, bits.to_s])
      stream = JSON.parse(Tools.run("ffprobe", "-v", "error", "-of", "json", "-show_streams", path))["streams"].first
      expect(stream).to include("duration_ts" => frames, "codec_name" => bits == 24 ? "pcm_s24le" : "pcm_f32le")
    end
  end
end

# Hours of a capture in which the only track rests take no time and no space; the way across 4 GiB is the real one.
RSpec.describe "A capture that grows beyond 4 GiB", :folder do
  let(:track) { Loomshuttle::Recorder::Track.new(number: 1, name: "Long", inputs: [1, 2], outputs: [], armed: true) }
  let(:capture) do
    Loomshuttle::Recorder::Capture.new(@folder, tracks: [track], name: "Night", lanes: 8, rate: 48_000, started_at: Time.utc(2026, 6, 13, 20, 30))
  end

  def batch(frames, bytes)
    Loomshuttle::Recorder::Batch.new(0, frames, [[0, 8, bytes]], []).tap { |one| one.instance_variable_set(:@levels, [[0.1] * 8, [0.01] * 8]) if bytes.empty? }
  end

  def sound(seed) = Random.new(seed).bytes(2400 * 8 * 3)

  it "is valid RF64 with exact sample counts, and holds what was captured on both sides" do
    capture.write(batch(2400, sound(1)))
    capture.rest([1], true)
    5.times { capture.write(batch(48_000 * 3600, "".b)) } # a stereo file passes 4 GiB after 4 h 9 min
    capture.rest([1], false)
    capture.write(batch(2400, sound(2)))
    done = capture.finish
    frames = (5 * 3600 * 48_000) + 4800
    path = File.join(capture.folder, done["tracks"][0]["file"])
    expect([done["frames"], File.size(path) > 1 << 32, File.stat(path).blocks * 512 < 1_000_000]).to eq([frames, true, true])
    expect(Tools.run("sndfile-info", path)).to include("RF64").and match(/Frames\s*: #{frames}\b/)
    audio = JSON.parse(Tools.run("mediainfo", "--Output=JSON", path)).dig("media", "track")[1]
    expect(audio["SamplingCount"]).to eq(frames.to_s)
    reader = Loomshuttle::Formats::Wav::Reader.new(path)
    [[0, 1], [frames - 2400, 2]].each do |from, seed|
      expect(reader.read(from, 2400)).to eq(Loomshuttle::Audio::Pcm24.from_network(sound(seed), 8)[true, 0..1])
    end
  end
end

RSpec.describe "Levels beside sox", :folder do
  it "reads 0 dBFS RMS (AES17) where sox makes a full-scale sine" do
    path = File.join(@folder, "sine.wav")
    Tools.run("sox", "-D", "-n", "-r", "48000", "-b", "24", "-t", "wavpcm", path, "synth", "1", "sine", "997")
    block = Loomshuttle::Formats::Wav::Reader.new(path).read
    expect(Loomshuttle::Audio::Level.rms(block).first).to be_within(0.01).of(0)
    text = Tools.run("sox", path, "-n", "stats")
    expect(Loomshuttle::Audio::Level.peak(block).first).to be_within(0.01).of(text[/Pk lev dB\s+(\S+)/, 1].to_f)
    expect(Loomshuttle::Audio::Level.rms(block).first).to be_within(0.01).of(text[/RMS lev dB\s+(\S+)/, 1].to_f + 3.01)
  end

  it "reads the samples of a file as sox does" do
    path, raw = File.join(@folder, "noise.wav"), File.join(@folder, "noise.raw")
    Tools.run("sox", "-R", "-n", "-r", "48000", "-b", "24", "-c", "2", "-t", "wavpcm", path, "synth", "0.5", "pinknoise")
    Tools.run("sox", path, "-t", "raw", "-e", "signed", "-b", "24", "-L", raw)
    expect(Loomshuttle::Audio::Pcm24.to_wav(Loomshuttle::Formats::Wav::Reader.new(path).read)).to eq(File.binread(raw))
  end
end
