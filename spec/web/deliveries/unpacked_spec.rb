# frozen_string_literal: true

# Deliveries as ZIP files, as several systems make them.
RSpec.describe Loomshuttle::Web::Unpacked, :folder do
  let(:zip) { File.join(@folder, "inbox", "Ropewalk stems.zip").tap { |path| FileUtils.mkdir_p(File.dirname(path)) } }
  let(:deliveries) { Loomshuttle::Web::Deliveries.new(File.join(@folder, "home"), Loomshuttle::Web::Jobs.new(File.join(@folder, "home")), folders: Loomshuttle::Web::AllowedFolders.new([File.join(@folder, "inbox")])) }
  let(:show) { straight(5) }
  let(:sound) do
    path = File.join(@folder, "tone.wav")
    Tools.run("sox", "-n", "-r", 48_000, "-b", 24, "-t", "wavpcm", path, "synth", 0.1, "sine", 440)
    File.binread(path)
  end

  def write(entries)
    FileUtils.rm_f(zip)
    Zip::OutputStream.open(zip) { |out| entries.each { |name, bytes| out.put_next_entry(name) && out.write(bytes) } }
    zip
  end

  def unpack(bytes: 1 << 30, most: 100)
    target = File.join(@folder, "out")
    problems = described_class.new(zip, target, kinds: %w[.wav .mid], most: most, bytes: bytes).run
    [Dir.children(target).sort, problems]
  end

  it "takes sound files from all folders, side by side, and leaves the rest out in words" do
    write("Stems/Strings.wav" => sound, "Stems/old/Strings.wav" => sound, "Stems/map.mid" => "MThd", "__MACOSX/Stems/._Strings.wav" => "x", "Stems/readme.txt" => "hello",
          "Caf\x82.wav".b => sound)
    names, problems = unpack
    expect(names).to eq(["Caf\u00e9.wav", "Strings (2).wav", "Strings.wav", "map.mid"])
    expect(problems).to eq([{ where: "Stems/readme.txt", message: "is not a sound file; skipped" }])
    expect(File.binread(File.join(@folder, "out", "Strings (2).wav"))).to eq(sound)
  end

  it "puts nothing anywhere else, whatever the names are" do
    write("../../evil.wav" => sound, "+tmp/evil2.wav" => sound, "..\\evil3.wav" => sound)
    File.binwrite(zip, File.binread(zip).gsub("+tmp/", "/tmp/")) # which no writer of ours would write
    names, = unpack
    expect(names).to eq(%w[evil.wav evil2.wav evil3.wav])
    expect(Dir[File.join(@folder, "**", "evil*.wav")].map { |path| File.dirname(path) }.uniq).to eq([File.join(@folder, "out")])
  end

  # Two of three once vanished without a word.
  it "keeps all of several whose names are longer than a disk takes, each with its ending" do
    long = "Ü" * 130
    write("a/#{long}1.wav" => sound, "b/#{long}2.wav" => sound, "c/#{long}3.wav" => sound, "d/#{'x' * 300}.mid" => "MThd")
    names, problems = unpack
    expect([names.size, problems]).to eq([4, []])
    expect(names.map { |name| File.extname(name) }.tally).to eq(".wav" => 3, ".mid" => 1)
    expect(names.map(&:bytesize).max).to be <= 220
  end

  # PKWARE APPNOTE.TXT 4.3.14 to 4.3.16: the number of entries where the end says 65,535.
  it "reads the number of entries of a ZIP64 file, and refuses one that hides it" do
    write("a.wav" => sound)
    bytes = File.binread(zip)
    at = bytes.rindex("PK\5\6".b)
    central = bytes.byteslice(at + 16, 4).unpack1("V")
    record = ["PK\6\6".b, 44, 45, 45, 0, 0, 1, 1, at - central, central].pack("a4Q<vvVVQ<Q<Q<Q<")
    locator = ["PK\6\7".b, 0, at, 1].pack("a4VQ<V")
    ending = bytes.byteslice(at..).tap { |tail| tail[8, 4] = [0xFFFF, 0xFFFF].pack("vv") }
    File.binwrite(zip, bytes.byteslice(0, at) + record + locator + ending)
    expect(unpack).to eq([["a.wav"], []])
    File.binwrite(zip, bytes.byteslice(0, at) + record.sub([1, 1].pack("Q<Q<"), [30_000, 30_000].pack("Q<Q<")) + locator + ending)
    expect { unpack }.to raise_error(Loomshuttle::Invalid, /too much in Ropewalk/)
    File.binwrite(zip, bytes.byteslice(0, at) + ending)
    expect { unpack }.to raise_error(Loomshuttle::Invalid, /too much in Ropewalk/)
  end

  # 64 MiB of nothing in 64 KiB.
  it "is refused when it holds more than there is room for, or is none" do
    write("long.wav" => "\0" * (64 << 20))
    expect { unpack(bytes: 32 << 20) }.to raise_error(Loomshuttle::Invalid, "What is in Ropewalk stems.zip needs more room than there is.")
    write((1..6).to_h { |n| ["#{n}.wav", sound] })
    expect { unpack(most: 5) }.to raise_error(Loomshuttle::Invalid, "There are more than 5 sound files in Ropewalk stems.zip.")
    File.binwrite(zip, "no archive")
    expect { unpack }.to raise_error(Loomshuttle::Invalid, /\ARopewalk stems.zip cannot be unpacked: /)
    allow(Zip::File).to receive(:open).and_raise("never read")
    stub_const("#{described_class}::ENTRIES", 3)
    write((1..4).to_h { |n| ["#{n}.txt", "x"] })
    expect { unpack }.to raise_error(Loomshuttle::Invalid, "There is too much in Ropewalk stems.zip to be a delivery.")
    allow(Zip::File).to receive(:open).and_call_original
    bytes = write("a.wav" => sound).then { |path| File.binread(path) }
    File.binwrite(zip, bytes[0, bytes.bytesize / 2])
    expect { unpack }.to raise_error(Loomshuttle::Invalid, /cannot be unpacked/)
  end

  it "is looked into as a folder is, where it lies and when it is sent" do
    write("Stems/Strings.wav" => sound, "Stems/readme.txt" => "hello")
    items, problems = deliveries.look({ "folder" => zip }, show)
    expect(items.flat_map { |item| item.sounds.map { |one| File.basename(one.path) } }).to eq(["Strings.wav"])
    expect(problems.map { |one| one[:where] }).to eq(["Stems/readme.txt"])
    id = deliveries.create
    deliveries.add(id, "all.zip", StringIO.new(File.binread(zip)))
    items, = deliveries.look({ "id" => id }, show)
    expect(items.flat_map { |item| item.sounds.map { |one| File.basename(one.path) } }).to eq(["Strings.wav"])
    expect { deliveries.folder_of("folder" => write_elsewhere) }.to raise_error(Loomshuttle::Invalid, /is outside the allowed import folders/)
  end

  def write_elsewhere = File.join(@folder, "other.zip").tap { |path| FileUtils.cp(zip, path) }
end
