# frozen_string_literal: true

require "numo/narray"

# What leaves, held against general tools: sox, soxi and ffprobe.
RSpec.describe Loomshuttle::Porter::SoundForm, :folder do
  let(:rig) { VirtualRig.new(home: @folder).patch_straight(4) }
  let(:jobs) { Loomshuttle::Web::Jobs.new(@folder) }
  let(:porter) { Loomshuttle::Porter::Server.new(home: @folder) }
  let(:bits) { 24 }
  let(:take) do
    rig.run(0.2)
    rig.recorder.configure(tracks: rig.recorder.status["tracks"], bits: bits)
    rig.recorder.capture_start(name: "Set", frames: 96_000)
    rig.run(2.2)
    folder, manifest = Loomshuttle::Recorder::Manifest.all(rig.recorder.takes).first
    manifest.merge("folder" => folder)
  end

  def export(sound, **more)
    jobs.export(take, form: "folder", sound: sound, **more)
    porter.work(Loomshuttle::Porter::Job.open(File.join(@folder, "jobs")).first)
    job = jobs.all.max_by { |one| one["made_at"] }
    expect(job).to include("state" => "done")
    Dir[File.join(job["result"], "*.{wav,flac}")].sort_by { |path| File.basename(path) }
  end

  def captured(track) = Loomshuttle::Formats::Wav::Reader.new(File.join(take["folder"], take["tracks"][track - 1]["file"])).read[true, 0]
  def raw(path, *effects) = Numo::Int32.from_binary(Tools.run("sox", path, "-t", "raw", "-e", "signed-integer", "-b", "32", "-", *effects))

  it "packs FLAC that another decoder gives back bit by bit" do
    files = export("flac")
    expect(files.map { |path| File.extname(path) }).to eq([".flac"] * 4)
    about = JSON.parse(Tools.run("ffprobe", "-v", "error", "-of", "json", "-show_streams", files[1]))["streams"].first
    expect(about).to include("codec_name" => "flac", "sample_rate" => "48000", "bits_per_raw_sample" => "24", "channels" => 1)
    expect(raw(files[1]) / 256).to eq(captured(2))
    expect(Dir.children(File.dirname(files[0]))).not_to include("take.json")
    expect(Dir.glob("#{File.dirname(files[0])}/*.wav")).to eq([])
  end

  it "ends a packer that says nothing, and one whose job is cancelled" do
    stub_const("#{described_class}::PATIENCE", 0.2)
    cut = Loomshuttle::Porter::Cut.new(take["folder"])
    form, pipes, popen = described_class.new(cut, "flac"), [], IO.method(:popen)
    instead = ->(*command) { allow(IO).to(receive(:popen) { |_, **options| popen.call(command, **options).tap { |pipe| pipes << pipe.pid } }) }
    instead.call("sleep", "600")
    path = File.join(@folder, "x.flac")
    expect { form.write(cut.tracks.first(1), path) { nil } }.to raise_error(Loomshuttle::Invalid, /x.flac cannot be packed/)
    instead.call("yes")
    expect { form.write(cut.tracks.first(1), path) { |bytes| raise Loomshuttle::Porter::Job::Stopped if bytes.zero? } }.to raise_error(Loomshuttle::Porter::Job::Stopped)
    Tools.wait_until(20, "both to be gone") { pipes.none? { |pid| File.exist?("/proc/#{pid}/exe") } }
    expect(File.exist?("#{path}.wav")).to be(false)
  end

  # Triangular dither has two steps from peak to peak, and rounding one: no sample is off by more than a step and a half.
  it "writes dithered 16 bits, silence as silence" do
    path = export("16")[1]
    expect(Tools.run("soxi", "-b", path).to_i).to eq(16)
    off = (raw(path) / 65_536) - (Numo::DFloat.cast(captured(2)) / 256)
    expect([off.abs.max, off.mean.abs]).to match([be_between(0.6, 1.5), be < 0.02])
    silent = described_class.allocate.send(:sixteen, Numo::Int32[[0, 256], [0, 512], [0, -256]], 0)
    expect(Numo::Int16.from_binary(silent).to_a).to eq([0, 1, 0, 2, 0, -1])
  end

  it "writes one file with all lanes, named, which comes back as the tracks it was made of" do
    path, *others = export("together", from: 4800, to: 52_800, part: "Reel")
    expect(others).to eq([])
    expect(File.basename(path)).to eq("Set 0001.wav")
    expect([Tools.run("soxi", "-c", path), Tools.run("soxi", "-s", path), Tools.run("soxi", "-b", path)].map(&:to_i)).to eq([4, 48_000, 24])
    expect(raw(path, "remix", "3") / 256).to eq(captured(3)[4800...52_800])
    names = Loomshuttle::Formats::IXml.names(Loomshuttle::Formats::Wav::Reader.new(path).ixml)
    expect(names).to eq(take["tracks"].map { |track| track["name"] })
  end

  it "goes on in silence where one file is shorter than the others" do
    file = File.join(take["folder"], take["tracks"][1]["file"])
    File.truncate(file, File.size(file) - (3 * 24_000))
    path = export("together").first
    expect(raw(path, "remix", "1") / 256).to eq(captured(1))
    short = raw(path, "remix", "2") / 256
    expect([short.size, short[72_000..].abs.max, short[0...72_000]]).to eq([96_000, 0, captured(2)[0...72_000]])
  end

  describe "of a take of 32 bits" do
    let(:bits) { 32 }

    it "writes 24 bits, with the manifest of a take, and one file of 32 with all lanes" do
      path = export("24").first
      expect(Tools.run("soxi", "-b", path).to_i).to eq(24)
      expect(raw(path) / 256).to eq(captured(1))
      expect(JSON.parse(File.read(File.join(File.dirname(path), "take.json")))).to include("bits" => 24)
      one = export("together").first
      expect([Tools.run("soxi", "-b", one), Tools.run("soxi", "-e", one)].map(&:strip)).to eq(["32", "Floating Point PCM"])
      expect(raw(one, "remix", "4") / 256).to eq(captured(4))
    end
  end

  it "refuses a form that is none" do
    cut = Loomshuttle::Porter::Cut.new(take["folder"])
    expect { described_class.new(cut, "cassette") }.to raise_error(Loomshuttle::Invalid, /not as "cassette"/)
  end
end
