# frozen_string_literal: true

# Damaged files at each place that reads one, seeded: a value that can be worked with, or a refusal in words; never anything else, and
# never for long.
RSpec.describe "Files from a disk", :folder do
  include CoreHelp

  let(:random) { Random.new(Integer(ENV.fetch("HOSTILE_SEED", "20260613"))) }
  let(:count) { Integer(ENV.fetch("HOSTILE", "5000")) / 25 }

  def path(name) = File.join(@folder, name)

  # @yieldparam path [String] of a damaged file   @yieldreturn what was made of it
  # @return [Array<Object>] what was made, :refused where it was refused
  def read_all(good)
    Array.new(count) do
      File.binwrite(path("damaged"), bytes_of(good))
      yield path("damaged")
    rescue Loomshuttle::Invalid => e
      expect(e.message).to match(/\S/)
      :refused
    end
  end

  def bytes_of(good)
    return Damage.text(random.rand < 0.2 ? good : Damage.value(good, random), random) unless good.is_a?(String)

    bytes = good.dup
    random.rand(1..8).times { bytes.setbyte(random.rand([bytes.bytesize, 800].min), random.rand(256)) }
    random.rand < 0.3 ? bytes.byteslice(0, random.rand(bytes.bytesize)) : bytes
  rescue JSON::GeneratorError
    "{"
  end

  it "are sound, or not" do
    bext = Loomshuttle::Formats::Bext.new(description: "x", originator: "x", reference: "x", date: "2026-06-13", time: "20:30:00", time_reference: 9, history: "A=PCM")
    good = path("good.wav")
    Loomshuttle::Formats::Wav::Writer.new(good, bext: bext, ixml: "<x/>").then do |writer|
      writer.write("\1\2\3" * 500)
      writer.close
    end
    made = read_all(File.binread(good)) do |file|
      reader = Loomshuttle::Formats::Wav::Reader.new(file)
      [reader.frames, reader.read.shape, reader.bext&.time_reference]
    ensure
      reader&.close
    end
    expect(made.uniq.size).to be > 3
    read_all(File.binread(good)) { |file| Loomshuttle::Formats::Wav::Mend.cut(file, [Loomshuttle::Formats::Wav::Mend.frames_on_disk(file), 9].min) }
  end

  it "are full of zeros after a power cut, and no work for long" do
    File.write(path("zeros.wav"), "RIFF\0\0\0\0WAVE")
    File.truncate(path("zeros.wav"), 4 << 30)
    expect { Loomshuttle::Formats::Wav::Reader.new(path("zeros.wav")) }.to raise_error(Loomshuttle::Invalid)
    File.truncate(path("zeros.wav"), 0)
    expect { Loomshuttle::Formats::Wav::Reader.new(path("zeros.wav")) }.to raise_error(Loomshuttle::Invalid)
  end

  it "are shows and profiles, or none" do
    show = straight(4, from: chained)
    file = JSON.parse(JSON.generate(Loomshuttle::Formats::ShowFile.write(show, shipped: CoreHelp::CATALOG.all.map(&:id))))
    made = read_all(file) do |damaged|
      data = Loomshuttle::Runtime::Files.read_json(damaged)
      Loomshuttle::Web::Schemas.check(:show, data)
      Loomshuttle::Formats::ShowFile.read(data, CoreHelp::CATALOG).show.rig.desk
    end
    expect(made.count(:refused)).to be_between(1, count - 1)
    profile = JSON.parse(File.read(File.join(Loomshuttle::ROOT, "profiles", "alder-40.json")))
    read_all(profile) do |damaged|
      data = Loomshuttle::Runtime::Files.read_json(damaged)
      Loomshuttle::Web::Schemas.check(:profile, data)
      Loomshuttle::Rig::Profile.from(data).id
    end
  end

  it "are input lists, as far as they go" do
    show = chained
    good = Loomshuttle::Formats::InputList.write(straight(8, from: show))
    read_all(good) { |damaged| Loomshuttle::Formats::InputList.read(File.binread(damaged), show).entries.size }
    book = File.binread(File.join(Loomshuttle::ROOT, "spec", "lists", "25-workbook.xlsx"))
    nth = 0 # some of them as the application does, by a process of their own, which takes half a second to start
    read_all(book) { |damaged| Loomshuttle::Web::Spreadsheet.public_send(((nth += 1) % 20).zero? ? :csv : :read, File.binread(damaged)).size }
    expect { Loomshuttle::Formats::InputList.read("name\n#{"x\n" * 5000}", show) }.to raise_error(Loomshuttle::Invalid, /2000 rows at most/)
    expect { Loomshuttle::Formats::InputList.read("name\n#{'x' * 500_000}", show) }.to raise_error(Loomshuttle::Invalid, /400000 characters at most/)
  end

  it "are a recorder's configuration, a sound device, a card, or none" do
    config = { "tracks" => [{ "number" => 1, "name" => "Tuba", "inputs" => [1], "outputs" => [], "armed" => true }], "buffer" => 1024, "trips" => { "1024" => 1030 },
               "mirror" => nil }
    read_all(config) { |damaged| Loomshuttle::Recorder::Config.new(damaged).then { |one| [one.tracks.size, one.trip, one["bits"]] } }
    device = { "name" => "hw:PCH,0", "words" => "Fern 8", "inputs" => 8, "outputs" => 8, "rates" => [44_100, 96_000], "format" => "S32_LE", "rate" => 44_100 }
    read_all(device) do |damaged|
      FileUtils.cp(damaged, path("sound-device.json"))
      choice = Loomshuttle::Recorder::Alsa::Choice.new(@folder)
      [choice.rate, choice.sends.size] if choice.device
    end
    stream = Loomshuttle::Formats::Sdp::Stream.new(host: "127.0.0.1", port: 5004, lanes: 8, first: 1, rate: 48_000, payload_type: 97)
    sdp = Loomshuttle::Formats::Sdp.write("x", [stream], session: 1)
    read_all(sdp) do |damaged|
      %w[sends returns].each { |way| FileUtils.cp(damaged, path("card-#{way}.sdp")) }
      Loomshuttle::Recorder::CardDescription.new(@folder).sends.map { |one| expect(one.host).to start_with("127.") }
    end
  end

  it "are a desk's rig and its memory, or none" do
    rig = { "desk" => "alder-40", "rate" => 48_000, "boxes" => [{ "profile" => "bramble-16", "port" => "a", "input_offset" => 0 }],
            "profiles" => [JSON.parse(File.read(File.join(VirtualRig::PROFILES, "rowan-10.json")))] }
    read_all(rig) { |damaged| Loomshuttle::StandIns::Desk::Model.new(Loomshuttle::Runtime::Files.read_json(damaged), VirtualRig::PROFILES).lanes }
    settings = Loomshuttle::StandIns::Desk::Settings.new(VirtualRig.model)
    memory = settings.addresses.first(40).to_h { |address| [address, settings.get(address)] }
    aside = Loomshuttle::Runtime::Aside.new(@folder)
    expect do
      read_all(memory) { |damaged| Loomshuttle::StandIns::Desk::Memory.new(damaged, Loomshuttle::StandIns::Desk::Settings.new(VirtualRig.model), aside: aside) && true }
    end.to output(/put aside/).to_stderr
  end
end
