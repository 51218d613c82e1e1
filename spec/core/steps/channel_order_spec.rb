# frozen_string_literal: true

# A revised input list that brings its sources in another order moves channels with everything that was set of them.
RSpec.describe Loomshuttle::Steps::ChannelOrder do
  let(:patched) { set(straight(8, from: chained("hazel-56")), "channel/3/gain" => 27, "channel/3/phantom" => true, "channel/3/colour" => "woad", "channel/3/main" => false) }

  def propose(show, text, **options) = Loomshuttle::Steps::Propose.for(show, "input_list", { "text" => text, **options.transform_keys(&:to_s) })
  def shown(proposal) = proposal.parts.reject { |part| part[:kind] == "removed" }
  def list(*rows) = ["ch,name", *rows].join("\n")
  def after(text, show: patched, **options) = propose(show, text, **options).edit.apply(show).first

  # What follows a source wherever it goes.
  def strand(show, name)
    channel = show.channels.values.find { |one| one.name == name }
    sends = show.sends.values.select { |send| send.source == channel.point }.map(&:lane)
    tracks = show.tracks.values.select { |track| track.inputs.intersect?(sends) }.map(&:number)
    [channel.to_h.except(:number), sends, tracks]
  end

  it "moves channels with their settings, sends and tracks, in one part of the preview" do
    text = list("5,Source 3", "3,Source 5", "12,Source 8")
    proposal = propose(patched, text)
    expect(shown(proposal).map { |part| part.values_at(:title, :kind, :note) }).to eq(
      [["New channel order", "moved", "Source 3 from 3 to 5, Source 5 from 5 to 3 and Source 8 from 8 to 12"]]
    )
    expect(proposal.problems).to eq([])
    moved = after(text)
    expect({ 3 => 5, 5 => 3, 8 => 12 }.map { |_, to| moved.channels[to].name }).to eq(["Source 3", "Source 5", "Source 8"])
    (1..8).each { |n| expect(strand(moved, "Source #{n}")).to eq(strand(patched, "Source #{n}")) }
    expect(moved.channels[5]).to have_attributes(gain: 27, phantom: true, colour: "woad", main: false)
    expect(moved.channels[8]).to eq(patched.channels[9].with(number: 8))
    expect(findings(moved)).to eq(findings(patched))
    expect(propose(moved, text).edit.settings).to eq({})
  end

  it "keeps the order where that part is not taken, and says what each row gets then" do
    text = list("5,Source 3", "3,Source 5")
    proposal = propose(patched, text, only: ["Source 3"])
    expect(proposal.edit.settings).to eq({})
    expect(shown(proposal).map { |part| part[:title] }).to eq(["New channel order"])
    expect(proposal.problems.map(&:message)).to include(/Source 3 gets channel 3, not channel 5/)
  end

  it "takes wishes, outputs and accepted findings along" do
    show = set(patched, "wish/order" => [1], "wish/1/sources" => ["channel/3", "return/9"],
                        "setup/accepted" => { "channel-without-socket/3" => "comes later", "clock-leader" => "as rented" })
    moved = after(list("10,Source 3"), show: show)
    expect(moved.wishes[1].sources).to eq(["channel/10", "return/9"])
    expect(moved.setup.accepted).to eq("channel-without-socket/10" => "comes later", "clock-leader" => "as rented")
  end

  it "gives what moves and is described differently both" do
    moved = after("ch,name,gain,socket\n10,Source 3,33,\n")
    expect(moved.channels[10]).to have_attributes(gain: 33, phantom: true, stage: patched.channels[3].stage)
  end

  it "moves nobody onto a channel that stays, a locked one, or one that two rows ask for" do
    expect(described_class.new(patched, entries(list("5,Source 3"))).moves).to eq({})
    expect(described_class.new(set(patched, "channel/5/fixed" => true), entries(list("5,Source 3", "3,Source 5"))).moves).to eq({})
    expect(described_class.new(patched, entries(list("12,Source 3", "12,Source 5"))).moves).to eq(3 => 12)
    # Without the move of 5, nor can 3 go there.
    expect(described_class.new(patched, entries(list("5,Source 3", "4,Source 5"))).moves).to eq({})
  end

  def entries(text) = Loomshuttle::Formats::InputList.read(text, patched).entries

  it "moves a pair as a whole, to an odd channel, and nobody between its sides" do
    show = set(patched, "channel/3/paired" => true, "channel/3/name" => "Keys L", "channel/4/name" => "Keys R")
    moves = ->(*rows) { described_class.new(show, entries(list(*rows))).moves }
    expect(moves.call("11,Keys L", "12,Keys R")).to eq(3 => 11, 4 => 12)
    expect([moves.call("11,Keys L"), moves.call("12,Keys L", "13,Keys R"), moves.call("4,Source 1")]).to eq([{}, {}, {}])
    expect(after(list("11/12,Keys L/R"), show: show).channels[11]).to have_attributes(name: "Keys L", paired: true)
  end

  it "keeps strands whole in any order, over random lists and desks" do
    %w[hazel-56 rowan-16 alder-40].each do |desk|
      12.times do |seed|
        random = Random.new(seed)
        show = straight(8, from: desk == "rowan-16" ? blank(desk) : chained(desk))
        numbers = (1..12).to_a.sample(8, random: random)
        text = list(*numbers.each_with_index.map { |number, at| "#{number},Source #{at + 1}" })
        moved = after(text, show: show)
        expect(findings(moved).map(&:id) - findings(show).map(&:id)).to eq([]), "#{desk}, seed #{seed}: #{findings(moved).map(&:sentence) - findings(show).map(&:sentence)}"
        (1..8).each { |n| expect(moved.channels.values.count { |channel| channel.name == "Source #{n}" }).to eq(1) }
        expect(moved.channels.values.select { |channel| channel.name.start_with?("Source") }.map(&:number)).to match_array(numbers) if desk == "hazel-56"
      end
    end
  end
end
