# frozen_string_literal: true

RSpec.describe Loomshuttle::Signal::Unreached do
  def context(show) = Loomshuttle::Checks::Context.of(show)
  def between(before, after) = described_class.between(context(before), context(after)).map { |loss| [loss.name, loss.lost] }

  # Main left and right at outputs 1 and 2, with the sockets of the desk.
  def fed = set(straight(4), "output/1/source" => "desk/main/l", "output/2/source" => "desk/main/r", "output/3/source" => "desk/bus/1", "bus/1/name" => "Ada")

  it "names the socket that loses everything, and the one that loses a source" do
    expect(between(fed, fed)).to eq([])
    expect(between(fed, set(fed, "output/1/source" => nil))).to eq([["Out 1", ["Source 1, Source 2, Source 3, Source 4 and 1 more, and carries nothing then"]]])
    expect(between(fed, set(fed, "channel/2/main" => false))).to eq([["Out 1", ["Source 2"]], ["Out 2", ["Source 2"]]])
    expect(between(fed, set(fed, "channel/2/position" => "take"))).to eq([["Out 1", ["Source 2"]], ["Out 2", ["Source 2"]], ["Out 3", ["Source 2"]]])
  end

  it "loses nothing by what is added, named or turned" do
    expect(between(fed, set(fed, "output/4/source" => "desk/main/l", "channel/2/gain" => 20, "channel/2/name" => "Horn"))).to eq([])
  end
end

RSpec.describe Loomshuttle::Checks::MainNowhere do
  def fed = set(straight(4), "output/1/source" => "desk/main/l", "output/2/source" => "desk/main/r", "output/3/source" => "desk/bus/1")
  def found(show) = described_class.findings(Loomshuttle::Checks::Context.of(show))

  it "blocks where main left or right leaves at no socket, and offers a free output" do
    expect(found(fed)).to eq([])
    finding = found(set(fed, "output/2/source" => nil)).first
    expect(finding.to_h).to include(severity: "blocks", sentence: "Main R does not reach an output socket.")
    expect(found(finding.fix.apply(set(fed, "output/2/source" => nil)).first)).to eq([])
  end

  it "says nothing of a plan whose outputs nobody has begun, and nothing where nobody is on main" do
    expect(found(straight(4))).to eq([])
    expect(found(set(fed, "output/1/source" => nil, "output/2/source" => nil, **(1..17).to_h { |n| ["channel/#{n}/main", false] }))).to eq([])
  end
end

# Every fix of every finding in random rigs: every listener who would hear less is named. What sound reaches is found here by listing whole
# ways (Trace), and not as the losses are.
RSpec.describe "Fixes in random rigs" do
  # @return [Hash{String=>Array<String>}] socket or personal lane => sources that sound there now
  def reaching(context)
    show = context.show
    outlets = show.outputs.keys.flat_map { |number| show.sockets_of_output(number) }.uniq + show.personal_lanes.keys.map { |n| Loomshuttle::Rig::Point.desk("personal", n) }
    used = show.channels.values.select { |channel| channel.used? && channel.hears && context.sockets[channel.hears] }.map(&:hears)
    live = ->(join) { join.live && join.kind != :file }
    outlets.to_h { |outlet| [Loomshuttle::Rig::Label.for(outlet), Loomshuttle::Signal::Trace.sources(context.graph, outlet, follow: live) & used] }
  end

  it "make no other source, output or listener worse without saying so" do
    looked = losing = 0
    (1..300).each do |seed|
      before = Loomshuttle::Checks::Context.of(RandomRig.new(seed).show)
      had = nil
      fixable = Loomshuttle::Checks.run(before).select { |finding| finding.fix.is_a?(Loomshuttle::Settings::Edit) }.uniq(&:check)
      fixable.sample(2, random: Random.new(seed)).each do |finding|
        had ||= reaching(before)
        after = Loomshuttle::Checks::Context.of(finding.fix.apply(before.show).first)
        has = reaching(after)
        worse = had.select { |outlet, sources| (sources - has.fetch(outlet, [])).any? }.keys
        told = Loomshuttle::Signal::Unreached.between(before, after).map(&:name)
        expect(worse - told).to eq([]), "seed #{seed}, #{finding.id}: #{worse - told} lose something"
        looked += 1
        losing += 1 if worse.any?
      rescue Loomshuttle::Invalid
        next # the edit does not fit, and would be refused
      end
    end
    expect([looked, losing]).to match([be > 300, be > 5])
  end
end
