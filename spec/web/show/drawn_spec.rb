# frozen_string_literal: true

require "hana"

RSpec.describe Loomshuttle::Web::Drawn do
  let(:editions) { Loomshuttle::Web::Editions.new }

  def derive(show, version, before: nil, id: 1)
    Loomshuttle::Web::Derived.new(Loomshuttle::Store::Shows::Loaded.new(id: id, version: version, show: show), free: -> { 100 << 30 }, before: before)
  end

  def findings(derived) = Loomshuttle::Web::Present.new(derived).findings
  def drawn(derived) = editions.drawn(derived, findings(derived))
  def json(drawn) = JSON.parse(JSON.generate(drawn.to_h))
  def rest(document) = document.except("id", "version", "edition")
  def patched(older, now) = Hana::Patch.new(JSON.parse(JSON.generate(now.since(older)))).apply(rest(json(older)))

  # @return [Array<Drawn>] of one edit after the other
  def walk(seed, times)
    random, show, derived = Random.new(seed), RandomRig.new(seed).show, nil
    Array.new(times) do |version|
      derived = derive(show, version + 1, before: derived)
      show = set(show, random.rand < 0.4 ? { "channel/#{random.rand(1..8)}/name" => "Name #{version}" } : random_choice(show, random))
      drawn(derived)
    rescue Loomshuttle::Invalid
      drawn(derived)
    end
  end

  (1..3).each do |seed|
    it "tells of any two editions what has changed in between (seed #{seed})" do
      walk(seed, 20).each_cons(6) do |older, *, now|
        expect(patched(older, now)).to eq(rest(json(now)))
      end
    end

    it "is the same with and without a previous state (seed #{seed})" do
      walk(seed, 12).each do |drawn|
        alone = derive(drawn.derived.show, drawn.version).then { |derived| described_class.new(derived, findings(derived)) }
        expect(rest(json(drawn))).to eq(rest(json(alone)))
      end
    end
  end

  it "tells one name in few words, however large the show is" do
    before = derive(straight(16), 1)
    now = derive(set(straight(16), "channel/3/name" => "Tuba"), 2, before: before)
    older = drawn(before)
    paths = drawn(now).since(older).map { |one| one[:path] }
    expect(paths).to contain_exactly("/channels/2", "/strands/2", %r{\A/sheet/ports/\d+\z})
  end
end

RSpec.describe Loomshuttle::Web::Editions do
  let(:editions) { described_class.new }

  def derive(name, id: 1)
    loaded = Loomshuttle::Store::Shows::Loaded.new(id: id, version: 1, show: set(straight(2), "channel/1/name" => name))
    Loomshuttle::Web::Derived.new(loaded, free: -> { 100 << 30 })
  end

  def draw(derived, findings = []) = editions.drawn(derived, findings)

  it "draws a state once" do
    derived = derive("Fiddle")
    first = draw(derived)
    draw(derive("Tuba"))
    expect(draw(derived)).to equal(first)
  end

  it "gives a version another edition after it was derived again or findings by ear changed" do
    derived, found = derive("Fiddle"), [{ id: "cue-at-audience/1", sentence: "The audience hears the click." }]
    expect([draw(derived), draw(derive("Fiddle")), draw(derived, found)].map(&:edition).uniq.size).to eq(3)
    expect(draw(derived, found).since(draw(derived)).map { |one| one[:path] }).to eq(["/findings"])
  end

  it "knows the last editions and no others, of the same show only" do
    old = Array.new(described_class::KEPT + 1) { |n| draw(derive("Name #{n}")) }
    other = draw(derive("Other", id: 2))
    expect([editions.since(old.last.edition, old.last), editions.since("unknown", other), editions.since(old.last.edition, other)]).to eq([[], nil, nil])
    expect(editions.since(old.first.edition, old.last)).to be_nil
    expect(editions.instance_variable_get(:@kept).size).to eq(described_class::KEPT)
  end
end

RSpec.describe Loomshuttle::Web::RecordList do
  def list(records, before: nil) = described_class.new(records, %i[id], before: before)

  it "keeps both of two records with the same name" do
    records = [{ id: 1, name: "Fiddle" }, { id: 1, name: "Tuba" }]
    expect(JSON.parse(list(records).text)).to eq([{ "id" => 1, "name" => "Fiddle" }, { "id" => 1, "name" => "Tuba" }])
    expect(list([*records, { id: 2, name: "Horn" }], before: list(records)).texts.size).to eq(3)
  end

  it "reuses texts from the previous list, also after added, removed and changed records" do
    before = list(Array.new(6) { |id| { id: id } })
    now = list([{ id: 9 }, { id: 0 }, { id: 2 }, { id: 3, name: "Tuba" }, { id: 4 }, { id: 5 }], before: before)
    expect(JSON.parse(now.text).map(&:values)).to eq([[9], [0], [2], [3, "Tuba"], [4], [5]])
    expect(%w[0 2 4 5].map { |name| now.texts[name].equal?(before.texts[name]) }).to eq([true] * 4)
  end
end
