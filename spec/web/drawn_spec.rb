# frozen_string_literal: true

require "hana"

RSpec.describe Loomshuttle::Web::Drawn do
  let(:editions) { Loomshuttle::Web::Editions.new }

  def derive(show, version, before: nil, id: 1)
    Loomshuttle::Web::Derived.new(Loomshuttle::Store::Shows::Loaded.new(id: id, version: version, show: show), free: -> { 100 << 30 }, before: before)
  end

  def json(drawn) = JSON.parse(JSON.generate(drawn.to_h))
  def rest(document) = document.except("id", "version", "edition")
  def patched(older, now) = Hana::Patch.new(JSON.parse(JSON.generate(now.since(older)))).apply(rest(json(older)))

  # @return [Array<Drawn>] of one edit after the other
  def walk(seed, times)
    random, show, derived = Random.new(seed), RandomRig.new(seed).show, nil
    Array.new(times) do |version|
      derived = derive(show, version + 1, before: derived)
      show = set(show, random.rand < 0.4 ? { "channel/#{random.rand(1..8)}/name" => "Name #{version}" } : random_choice(show, random))
      editions.drawn(derived)
    rescue Loomshuttle::Invalid
      editions.drawn(derived)
    end
  end

  (1..3).each do |seed|
    it "tells of any two editions what has changed in between (seed #{seed})" do
      walk(seed, 20).each_cons(6) do |older, *, now|
        expect(patched(older, now)).to eq(rest(json(now)))
      end
    end

    it "is the same whatever it was written beside (seed #{seed})" do
      walk(seed, 12).each do |drawn|
        alone = described_class.new(derive(drawn.instance_variable_get(:@show), drawn.version))
        expect(rest(json(drawn))).to eq(rest(json(alone)))
      end
    end
  end

  it "tells one name in few words, however large the show is" do
    before = derive(straight(16), 1)
    now = derive(set(straight(16), "channel/3/name" => "Tuba"), 2, before: before)
    paths = editions.drawn(now).since(editions.drawn(before)).map { |one| one[:path] }
    expect(paths).to contain_exactly("/channels/2", "/strands/2", %r{\A/sheet/ports/\d+\z})
  end
end

RSpec.describe Loomshuttle::Web::Editions do
  let(:editions) { described_class.new }

  def derive(name, id: 1)
    loaded = Loomshuttle::Store::Shows::Loaded.new(id: id, version: 1, show: set(straight(2), "channel/1/name" => name))
    Loomshuttle::Web::Derived.new(loaded, free: -> { 100 << 30 })
  end

  it "draws an edition once" do
    derived = derive("Fiddle")
    expect(editions.drawn(derived)).to equal(editions.drawn(derived))
  end

  it "does not take what was derived anew of the same version for the same edition" do
    expect([derive("Fiddle"), derive("Fiddle")].map(&:edition).uniq.size).to eq(2)
  end

  it "knows the last editions and no others, of the same show only" do
    old = Array.new(described_class::KEPT + 1) { |n| editions.drawn(derive("Name #{n}")) }
    other = editions.drawn(derive("Other", id: 2))
    expect([editions.since(old.last.edition, old.last), editions.since("unknown", other), editions.since(old.last.edition, other)]).to eq([[], nil, nil])
    expect(editions.since(old.first.edition, old.last)).to be_nil
    expect(editions.instance_variable_get(:@kept).size).to eq(described_class::KEPT)
  end
end
