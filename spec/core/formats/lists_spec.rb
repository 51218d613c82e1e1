# frozen_string_literal: true

require "csv"
require "json_schemer"

RSpec.describe Loomshuttle::Formats::InputList do
  def read(text, show = chained) = described_class.read(text, show)

  it "reads what it writes" do
    show = set(straight(6, from: chained), "channel/2/phantom" => true, "channel/2/name" => "Fiddle, \"the loud one\"", "channel/2/mic" => "condenser", "channel/3/spot" => "left",
                                           "channel/4/gain" => -6, "channel/5/colour" => "woad", "channel/6/stand" => "tall boom")
    read = read(described_class.write(show), show)
    expect(read).to have_attributes(problems: [], unknown: [])
    expect(read.entries.map { |entry| [entry.channel, entry.name, entry.socket, entry.phantom, entry.gain] }).to eq(
      show.channels.values.first(6).map { |channel| [channel.number, channel.name, channel.stage, channel.phantom, channel.gain] }
    )
    expect(read.entries[1]).to have_attributes(mic: "condenser")
  end

  # RFC 4180, section 2: the examples of rules 1 to 7 (quoted fields, commas, doubled quotes and line breaks inside them).
  it "reads fields as RFC 4180 shows them" do
    text = "name,mic,stand\r\n\"aaa\",\"b \r\nbb\",\"ccc\"\r\nzzz,yyy,xxx\r\n\"a\"\"bb\",\"c,cc\",d"
    expect(read(text).entries.map { |one| [one.name, one.mic, one.stand] }).to eq([["aaa", "b  bb", "ccc"], %w[zzz yyy xxx], ["a\"bb", "c,cc", "d"]])
    expect(described_class.write(set(blank, "channel/1/name" => "a\"b,c")).lines[1]).to start_with("1,\"a\"\"b,c\",").and end_with("\r\n")
  end

  it "knows other words for its columns, other separators, marks and encodings" do
    list = read("\uFEFFCh;Instrument;Stage Box;48V;Position;Colour\r1;Tuba;A 9;x;SL;walnut\r2;Cornet;box b in 3;;middle;\r")
    expect(named(list.entries.map { |one| [one.channel, one.name, one.socket, one.phantom, one.spot, one.colour] })).to eq(
      [[1, "Tuba", "link/a/up/9", true, "left", "walnut"], [2, "Cornet", "link/a/up/19", false, "centre", nil]]
    )
    expect(read("Source\tMic\nFl\xFCgel\tclip\n".b).entries.first.name).to eq("Flügel")
  end

  it "reports every row that it did not understand, and goes on" do
    list = read("ch,name,socket,phantom,gain,wedge\n99,Tuba,A 99,perhaps,loud,x\n,,A 1,,,\n3,Fiddle,in 13,yes,31 dB,\n\n4,#{'z' * 50},In 3,no,-3,")
    expect(list.unknown).to eq(["wedge"])
    expect(list.problems.map { |one| [one.line, one.message] }).to contain_exactly(
      [2,
       /no channel 99/], [2, /no socket "A 99"/], [2, /neither yes nor no/], [2, /not a gain in dB/],
      [3, /no name/], [4, /in 13: the Alder 40 has only 12 In sockets/], [6, /50 characters and was cut/]
    )
    expect(named(list.entries.map { |one| [one.channel, one.gain, one.socket] })).to eq([[nil, nil, nil], [3, 31, nil], [4, -3, "desk/in/3"]])
  end

  it "says what is not an input list" do
    expect { read("a,b\n1,2\n") }.to raise_error(Loomshuttle::Invalid, /No column is called name/)
    expect { read("") }.to raise_error(Loomshuttle::Invalid, /No column/)
    expect { read("name,x\n\"open,1\n") }.to raise_error(Loomshuttle::Invalid, /not CSV: .* in line/)
  end
end

RSpec.describe Loomshuttle::Formats::ShowFile do
  let(:schema) { JSONSchemer.schema(JSON.parse(File.read(File.join(Loomshuttle::ROOT, "schemas", "show.schema.json")))) }
  let(:shipped) { CoreHelp::CATALOG.all.map(&:id) }

  def written(show) = JSON.parse(JSON.generate(described_class.write(show, shipped: shipped)))

  it "gives the same show back, and keeps to its schema, over random rigs" do
    30.times do |seed|
      show = RandomRig.new(seed).show
      data = written(show)
      expect(schema.validate(data).map { |error| [error["data_pointer"], error["type"]] }).to eq([])
      expect(described_class.read(data, CoreHelp::CATALOG).show).to eq(show)
    end
  end

  it "brings along the profiles that not everybody has" do
    own = Loomshuttle::Rig::Profile.from(CoreHelp::CATALOG.fetch("box", "bramble-16").to_json_data.merge("id" => "nettle-16", "name" => "Nettle 16"))
    show = set(Loomshuttle::Settings::Show.blank(CoreHelp::CATALOG.with([own]), { name: "x" }, desk: "alder-40"), "box/a/profile" => "nettle-16", "box/a/port" => "a")
    read = described_class.read(written(show), CoreHelp::CATALOG)
    expect(read.profiles.map(&:id)).to eq(["nettle-16"])
    expect(read.show.layout.hung.first.box.name).to eq("Nettle 16")
  end

  it "is refused whole, with the place of each fault" do
    data = written(straight(4))
    data["settings"].merge!("channel/1/gain" => 99, "track/2/inputs" => [77], "send/3/tap" => "nowhere")
    expect { described_class.read(data, CoreHelp::CATALOG) }.to raise_error(Loomshuttle::Invalid, /and 2 more/) do |error|
      expect(error.faults.map(&:where)).to contain_exactly("/settings/channel~11~1gain", "/settings/track~12~1inputs", "/settings/send~13~1tap")
    end
    expect { described_class.read(data.merge("settings" => { "rig/desk" => "oak" }), CoreHelp::CATALOG) }.to raise_error(Loomshuttle::Invalid, /no desk profile "oak"/)
  end
end
