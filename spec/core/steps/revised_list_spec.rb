# frozen_string_literal: true

# An input list that comes a second time, as somebody has changed it, is an edit of what is patched.
RSpec.describe Loomshuttle::Steps::AutoPatch do
  let(:demo) { File.read(File.join(Loomshuttle::ROOT, "demo", "inputs.csv")) }
  let(:patched) { brought(chained, demo) }
  let(:own) { Loomshuttle::Formats::InputList.write(patched) }

  def propose(show, text, **options) = Loomshuttle::Steps::Propose.for(show, "input_list", { "text" => text, **options.transform_keys(&:to_s) })
  def brought(show, text, **options) = propose(show, text, **options).edit.apply(show).first
  def parts(show, text) = propose(show, text).parts.map { |part| part.values_at(:title, :kind, :note) }
  def named_channels(show) = show.channels.values.reject { |one| one.name.empty? }

  it "comes back as it was written without a change, to the same show and to a new one" do
    card_fed = set(patched, "channel/33/name" => "Sea sounds", "channel/33/stage" => "card/return/31", "channel/34/name" => "Ears Ada",
                            "channel/34/stage" => patched.channels[10].stage.name)
    list = Loomshuttle::Formats::InputList.write(card_fed)
    card_fed = brought(card_fed, list) # with its way to the recorder
    expect(propose(card_fed, list)).to have_attributes(edit: have_attributes(settings: {}), parts: [], problems: [])

    again = brought(chained, list)
    told = ->(show) { named_channels(show).map { |one| one.to_h.slice(:number, :name, :short, :stage, :gain, :phantom, :mic, :stand, :spot, :colour) } }
    expect(told.call(again)).to eq(told.call(card_fed))
    expect(again.channels[33]).to be_card_fed
  end

  it "renames the channel that has the number, and leaves its patch" do
    list = own.sub("4,Fiddle,", "4,Violin,")
    expect(parts(patched, list)).to eq([["Violin", "renamed", "channel 4, was Fiddle"]])
    after = brought(patched, list)
    expect(after.channels[4]).to eq(patched.channels[4].with(name: "Violin"))
    expect(named_channels(after).size).to eq(named_channels(patched).size)
  end

  it "renames what hears the socket where there is no number" do
    after = brought(patched, "name,socket\nViolin,A 4\n")
    expect([after.channels[4].name, named_channels(after).size]).to eq(["Violin", 30])
  end

  it "moves a source to another socket, also where two change places" do
    list = own.sub(",Box A in 4,", ",Box A in 9,").sub("9,Whistles,Whis,Box A in 9,", "9,Whistles,Whis,Box A in 4,")
    expect(parts(patched, list)).to eq([["Fiddle", "moved", "channel 4, was at Box A in 4"], ["Whistles", "moved", "channel 9, was at Box A in 9"]])
    after = brought(patched, list)
    expect([4, 9].map { |number| after.channels[number].stage }).to eq([9, 4].map { |number| patched.channels[number].stage })
    expect([after.channels[4].gain, after.channels[9].gain]).to eq([31, 26])
  end

  it "tells what is not on the list any more, and removes it only when that is asked for" do
    patched = brought(chained("hazel-56"), demo)
    list = own.lines.reject { |line| line.start_with?("15,Spare") }.join
    expect(parts(patched, list)).to eq([["Spare", "removed", "channel 15"]])
    expect(brought(patched, list)).to eq(patched)

    after = brought(patched, list, only: ["Spare"])
    expect(after.channels[15]).to have_attributes(name: "", stage: nil, take: nil)
    expect([after.sends[15].source, after.tracks[15].used?]).to eq([nil, false])
    expect(named_channels(after)).to eq(named_channels(patched).reject { |one| one.number == 15 })
    expect(findings(after).map(&:id) - findings(patched).map(&:id)).to eq([])
  end

  it "tells a new row from those that were there, and says where it differs from what was asked" do
    list = "#{own}31,Harp,,A 4,,,,,,\n"
    proposal = propose(patched, list)
    expect(proposal.parts.map { |part| part.values_at(:title, :kind) }).to eq([%w[Harp new]])
    expect(proposal.problems.map(&:message)).to eq(["Harp hears Box A in 4 as well as Fiddle, as another treatment of the same sound"])
  end

  it "tells a gain that the preamp does not have" do
    proposal = propose(patched, "ch,name,gain\n4,Fiddle,70\n")
    expect(proposal.edit.settings).to eq("channel/4/gain" => 60)
    expect(proposal.problems.map(&:message)).to eq(["Fiddle gets +60 dB, not +70 dB: the preamp goes no further"])
  end

  it "leaves 48 V where the list has no such column" do
    after = brought(patched, "ch,name,gain\n4,Fiddle,33\n")
    expect(after.channels[4]).to have_attributes(phantom: true, gain: 33)
  end

  it "changes nothing a second time, whatever was revised, over random lists" do
    random = Random.new(5)
    20.times do
      rows = own.lines.drop(1).map { |line| line.split(",") }
      rows = rows.sample(random.rand(10..30), random: random)
      rows.sample(5, random: random).each { |row| row[1] = "Guest #{random.rand(100)}" }
      rows.sample(4, random: random).each { |row| row[3] = "A #{random.rand(1..16)}" }
      list = [own.lines.first, *rows.map { |row| row.join(",") }].join
      once = brought(patched, list)
      expect(named_channels(once).map(&:name).uniq.size).to be >= named_channels(patched).size - 5
      expect(brought(once, list)).to eq(once)
    end
  end
end
