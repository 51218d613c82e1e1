# frozen_string_literal: true

require "json_schemer"

RSpec.describe Loomshuttle::Rig::Profile do
  it "tells what the Rowan 16 has" do
    rowan = CoreHelp::CATALOG.fetch("desk", "rowan-16")
    expect(rowan.input_sockets.size).to eq(18)
    expect(named(rowan.outlet_blocks.values.flatten)).to eq((1..10).map { |n| "desk/out/#{n}" })
    expect(named(rowan.all_channel_points.last(2))).to eq(["desk/ch/17/l", "desk/ch/17/r"])
    expect([rowan.sends, rowan.returns, rowan.lanes_in("2 lanes")]).to eq([20, 20, 2])
    expect(rowan.taps_of(point("desk/main/l"))).to eq(%w[pre-fader post-fader])
  end

  it "tells what the other desks have" do
    ten, alder, hazel = %w[rowan-10 alder-40 hazel-56].map { |id| CoreHelp::CATALOG.fetch("desk", id) }
    expect([ten.strips.size, ten.input_sockets.size, ten.card_modes, ten.buses]).to eq([14, 10, { "2 lanes" => 2 }, 5])
    expect([alder.strips.size, alder.ports, alder.sends, alder.stage_block, alder.free_slots, alder.buses, alder.matrices]).to eq([40, %w[a b], 40, 8, 24, 14, 4])
    expect(alder.outlet_blocks.transform_values(&:size)).to include("out-1" => 4, "aes-1" => 2, "a-1" => 8)
    expect([hazel.strips.size, hazel.ports, hazel.stage_block, hazel.flip]).to eq([56, %w[a b c], 1, "channel"])
  end

  # AES3: one line carries two channels (AES3-2009, clause 4: two audio channels in one frame) over a balanced cable of
  # 110 ohm characteristic impedance (AES3-2009 part 4; EBU Tech 3250-E, 6.1.2). Clause numbers from memory.
  it "has two channels on each AES3 line" do
    lines = CoreHelp::CATALOG.all.select { |one| one.kind == "desk" }.flat_map { |desk| desk.to_json_data["outputs"].select { |group| group["standard"] == "AES3" } }
    expect(lines).not_to be_empty
    expect([Loomshuttle::Rig::Aes3::CHANNELS, Loomshuttle::Rig::Aes3::IMPEDANCE_OHM]).to eq([2, 110])
    expect(lines.map { |line| line["count"] % 2 }).to all(eq(0))
  end

  # AES3-2009 carries no power for microphones, and the preamp is in the device that sends (from memory of the standard).
  it "has digital inputs on the Sedge 24, with neither preamp nor 48 V" do
    sedge = CoreHelp::CATALOG.fetch("desk", "sedge-24")
    expect(%w[desk/aesin/1 desk/in/1 desk/aes/1].map { |name| sedge.digital?(point(name)) }).to eq([true, false, false])
    expect(Loomshuttle::Rig::Label.for(point("desk/aesin/3"))).to eq("AES3 in 3")
    show = set(CoreHelp.blank("sedge-24"), "channel/1/name" => "Playback L", "channel/1/stage" => "desk/aesin/1", "channel/1/phantom" => true)
    finding = findings(show).find { |one| one.check == "phantom-on-digital" }
    expect(finding.sentence).to eq("Playback L (channel 1) has 48 V on, but AES3 in 1 is digital and has no 48 V.")
    expect(finding.fix.apply(show).first.channels[1].phantom).to be(false)
    expect(Loomshuttle::LineCheck::Sources.of(show).first).to have_attributes(gain: nil, preamp: nil)
    odd = sedge.to_json_data.merge("inputs" => [{ "prefix" => "aesin", "label" => "AES3 in", "count" => 3, "standard" => "AES3" }])
    expect { described_class.from(odd) }.to raise_error(Loomshuttle::Invalid, /3 channels, but each AES3 line carries 2/)
  end

  it "gives a digital input only to who asks for it" do
    named = (1..28).to_h { |number| ["channel/#{number}/name", "Source #{number}"] }
    show = set(CoreHelp.blank("sedge-24"), named)
    patched = Loomshuttle::Steps::AutoPatch.edit(show).apply(show).first
    expect(patched.channels.values.filter_map(&:stage).map(&:kind).tally).to eq("in" => 24, "line" => 2)
  end

  it "knows that the Fern 8 gives more than four outputs at 44.1 kHz and 16 bits only" do
    fern = CoreHelp::CATALOG.fetch("interface", "fern-8")
    expect([fern.outputs_at(rate: 44_100, bits: 16), fern.outputs_at(rate: 48_000, bits: 16), fern.outputs_at(rate: 88_200, bits: 24)]).to eq([8, 4, 0])
    expect(fern.modes.select { |mode| mode.outputs > 4 }.map { |mode| [mode.rate, mode.bits] }).to eq([[44_100, 16]])
    expect(CoreHelp::CATALOG.fetch("interface", "fern-12-twin")).to have_attributes(computers: 2, changeover: "pilot", outputs: 12)
  end

  [
    [{ "kind" => "kettle" }, "a desk, a box or an interface, not for \"kettle\""], [{ "kind" => "box", "id" => "x", "name" => "X" }, 'lacks "rates"'],
    [{ "kind" => "interface", "id" => "x", "name" => "X", "outputs" => 2, "computers" => 2, "modes" => [] }, "must say how it changes over"]
  ].each do |data, message|
    it "refuses a profile: #{message}" do
      expect { described_class.from(data) }.to raise_error(Loomshuttle::Invalid, /#{Regexp.escape(message)}/)
    end
  end

  {
    "flips by block, but take sources have no blocks" => ->(data) { data["patching"].delete("take_block") },
    "stereo channels cannot be patched in blocks" => ->(data) { data["channels"] << { "count" => 1, "width" => 2, "preamp" => data["channels"][0]["preamp"] } },
    "each AES3 line carries 2" => ->(data) { data["outputs"].find { |group| group["standard"] }["count"] = 3 },
    "its patch can name 4 only" => ->(data) { data["inputs"][0]["names"] = 4 },
    "more than the card's 40" => ->(data) { data["card"]["modes"] << { "id" => "big", "lanes" => 64 } }
  }.each do |message, harm|
    it "refuses a desk that cannot be: #{message}" do
      data = JSON.parse(JSON.generate(CoreHelp::CATALOG.fetch("desk", "alder-40").to_json_data))
      harm.call(data)
      expect { described_class.from(data) }.to raise_error(Loomshuttle::Invalid, /#{message}/)
    end
  end

  it "says which file is not JSON", :folder do
    path = File.join(@folder, "oak.json")
    File.write(path, "{")
    expect { described_class.read(path) }.to raise_error(Loomshuttle::Invalid, /oak.json is not JSON/)
  end

  describe "the published schema" do
    let(:schema) { JSONSchemer.schema(JSON.parse(File.read(File.join(Loomshuttle::ROOT, "profiles", "profile.schema.json")))) }

    it "accepts every profile that ships" do
      CoreHelp::CATALOG.all.each { |profile| expect(schema.validate(profile.to_json_data).map { |error| [profile.id, error["data_pointer"], error["type"]] }).to eq([]) }
      expect(CoreHelp::CATALOG.all.size).to eq(9)
    end

    it "points at what it does not accept" do
      data = CoreHelp::CATALOG.fetch("desk", "rowan-16").to_json_data.merge("buses" => "many")
      expect(schema.validate(data).map { |error| error["data_pointer"] }).to eq(["/buses"])
    end
  end
end
