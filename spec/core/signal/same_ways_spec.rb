# frozen_string_literal: true

RSpec.describe Loomshuttle::Signal::SameWays do
  let(:show) { set(straight(4), "channel/9/stage" => "desk/in/9") }

  def same?(settings) = described_class.in?(show, set(show, settings))

  it "holds for names, dyes and what is armed" do
    expect(same?("channel/1/name" => "Fiddle", "channel/2/short" => "Fdl", "track/3/colour" => "weld", "track/1/armed" => false, "channel/9/name" => "Horn")).to be(true)
  end

  it "does not hold for a channel with nothing but a name" do
    expect([same?("channel/12/name" => "Spare"), same?("channel/9/stage" => nil)]).to eq([false, false])
  end

  it "does not hold for any other setting of an item" do
    others = { "channel/1/gain" => 20, "channel/1/stage" => "desk/in/8", "channel/1/take" => nil, "channel/1/position" => "take", "channel/2/polarity" => true,
               "send/1/tap" => "post-fader", "track/1/outputs" => [], "setup/buffer" => 256, "output/1/source" => "desk/bus/1" }
    expect(others.select { |path, value| same?(path => value) }).to eq({})
  end

  it "does not hold for a show on another desk" do
    expect(described_class.in?(blank, blank("rowan-10"))).to be(false)
  end

  it "draws threads to the new rows after a name has given a track its own row" do
    empty = { "track/1/inputs" => [], "track/1/outputs" => [], "track/2/inputs" => [], "track/2/outputs" => [], "track/2/armed" => false, "track/2/name" => "" }
    stereo = set(set(show, empty), "track/1/stereo" => true, "track/1/inputs" => [1, 2], "track/1/outputs" => [1, 2])
    context = Loomshuttle::Checks::Context.of(stereo)
    sheet = Loomshuttle::Signal::Sheet.new(stereo, context.strands)
    named = set(stereo, "track/2/name" => "Spare")
    later = Loomshuttle::Checks::Context.of(named, before: context)
    expect(later.strands).to equal(context.strands)
    expect(Loomshuttle::Signal::Sheet.new(named, later.strands, before: sheet).threads).to eq(from_scratch(named).last.threads)
    expect(from_scratch(named).last.threads).not_to eq(sheet.threads)
  end

  # For any edits in any order, results reused from the previous version equal those derived from scratch.
  (1..4).each do |seed|
    it "derives the same from the previous version as from scratch (seed #{seed})" do
      rig = RandomRig.new(seed)
      now, context, sheet = rig.show
      walk(now, Random.new(seed), 25).each do |later|
        context = Loomshuttle::Checks::Context.of(later, before: context)
        sheet = Loomshuttle::Signal::Sheet.new(later, context.strands, before: sheet)
        expect(drawn(context, sheet)).to eq(drawn(*from_scratch(later)))
      end
    end
  end

  # @return [Array<Settings::Show>] after each of several edits, many of them names
  def walk(show, random, times)
    Array.new(times) do
      edit = [quiet_edit(show, random), quiet_edit(show, random), random_choice(show, random), random_choice(show, random), setup_edit(show, random)].sample(random: random)
      show = set(show, edit)
    rescue Loomshuttle::Invalid
      show # more than the desk can do
    end
  end

  def quiet_edit(show, random)
    channel, track = show.channels.keys.sample(random: random), show.tracks.keys.sample(random: random)
    [{ "channel/#{channel}/name" => ["", "Fiddle", "Tuba"].sample(random: random) }, { "channel/#{channel}/colour" => Loomshuttle::Settings::DYES.sample(random: random) },
     { "track/#{track}/name" => ["", "Room"].sample(random: random) }, { "track/#{track}/armed" => random.rand < 0.5 }].sample(random: random)
  end

  def setup_edit(show, random)
    [{ "setup/buffer" => Loomshuttle::Settings::BUFFERS.sample(random: random) }, { "setup/default_tap" => show.profile.taps.sample(random: random) },
     { "setup/card_mode" => show.profile.card_modes.keys.sample(random: random) }].sample(random: random)
  end

  def from_scratch(show)
    fresh = Loomshuttle::Settings::Show.load(show.catalog, show.about, show.set_settings)
    context = Loomshuttle::Checks::Context.of(fresh)
    [context, Loomshuttle::Signal::Sheet.new(fresh, context.strands)]
  end

  def drawn(context, sheet)
    { joins: context.graph.joins, strands: context.strands, levels: context.levels.amplitudes.to_a, sockets: context.sockets, found: Loomshuttle::Checks.run(context),
      ports: sheet.ports, threads: sheet.threads, loose: sheet.loose }
  end
end
