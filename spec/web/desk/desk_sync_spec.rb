# frozen_string_literal: true

# What an edit changes is told by the plan before and behind it, both in the words of the desk as it is now: who has a free slot there keeps it.
RSpec.describe Loomshuttle::Web::Desk::Sync do
  let(:sent) { [] }
  let(:link) { instance_double(Loomshuttle::Web::Desk::Link, await: nil, up?: true, profile: "alder-40") }
  let(:plan) { CoreHelp.set(CoreHelp.blank("alder-40"), "channel/1/stage" => "desk/in/1") }
  let(:named) { plan.put("channel/1/name", "Tuba") }
  # Two free slots hold channels 1 and 2, or 2 and 1 after a hand has been at the desk.
  let(:mirrors) { [[1, 2], [2, 1]].map { |slots| words(plan).merge(slots.each.with_index(1).to_h { |number, slot| ["slot/#{slot}/strip", number] }) } }

  before do
    allow(link).to receive(:same?) { |one, other| one == other }
    allow(link).to receive(:set_all) { |values| sent << values and {} }
  end

  def words(show, mirror = {}) = Loomshuttle::Web::Desk::FromPlan.settings(show, mirror)

  # Items cache their desk settings. After any edit these must equal those of the same show loaded from its settings.
  (1..3).each do |seed|
    it "translates each version of a plan like one that was just loaded (seed #{seed})" do
      random, show = Random.new(seed), RandomRig.new(seed).show
      mirror = words(show)
      25.times do
        show = CoreHelp.set(show, [CoreHelp.random_choice(show, random), bus_edit(show, random)].sample(random: random))
        loaded = Loomshuttle::Settings::Show.load(show.catalog, show.about, show.set_settings)
        expect(words(show, mirror)).to eq(words(loaded, mirror))
        expect(Loomshuttle::Web::Desk::ToPlan.settings(show, mirror)).to eq(Loomshuttle::Web::Desk::ToPlan.settings(loaded, mirror))
      rescue Loomshuttle::Invalid
        next # more than the desk can do
      end
    end
  end

  def bus_edit(show, random)
    { "bus/#{show.buses.keys.sample(random: random)}/tap" => show.profile.mixing.send_taps.sample(random: random) }
  end

  it "says a plan that was moved to another desk in the words of that one" do
    before = CoreHelp.set(CoreHelp.blank("rowan-16"), "bus/1/name" => "Ears", "channel/3/name" => "Tuba")
    words(before)
    moved = CoreHelp.set(before, "rig/desk" => "hazel-56")
    expect(words(moved)).to eq(words(Loomshuttle::Settings::Show.load(moved.catalog, moved.about, moved.set_settings)))
  end

  it "sends of the second edit only what that changed, whatever a hand has moved since" do
    free = CoreHelp.set(plan, "channel/1/stage" => "desk/in/9", "channel/2/stage" => "desk/in/1")
    edited = free.put("channel/3/name", "Horn")
    told = [free, edited].zip(mirrors).map { |_, mirror| mirror }
    allow(link).to receive(:mirror).and_return(*told.map { |mirror| words(free, mirror).merge(mirror.slice("slot/1/strip", "slot/2/strip")) })
    described_class.new(link).tap { |sync| [[plan, free], [free, edited]].each { |before, after| sync.follow(before, after) } }
    expect(sent.last(2).reduce(:merge).keys).to eq(["strip/3/label"])
  end
end
