# frozen_string_literal: true

require "json"

# Captured files as other programs see them.
RSpec.describe "Captured files, read by others", :folder do
  before do
    rig = VirtualRig.new(home: @folder).patch_straight(4)
    rig.run(0.2)
    rig.recorder.capture_start(name: "Outside", frames: 96_000)
    rig.run(2.2)
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
    # 20:30:00 is 73800 s after midnight
    expect(text).to match(/Time ref\s*: #{73_800 * 48_000}|Time reference\s*: #{73_800 * 48_000}|Time ref\s*: 0x/)
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
