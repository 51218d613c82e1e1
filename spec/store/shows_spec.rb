# frozen_string_literal: true

RSpec.describe Loomshuttle::Store::Shows do
  let(:database) { TestDatabase.empty }
  let(:shows) { described_class.new(database, CoreHelp::CATALOG) }
  let(:id) { shows.create({ name: "Test" }, straight.settings) }

  def edit(settings, version: nil, who: "Ada", label: "edit") = shows.apply(id, version: version, who: who, edit: Loomshuttle::Settings::Edit.set(label, settings))

  def load = shows.load(id)

  it "gives a show back as it was" do
    expect(load.show.settings).to eq(straight.settings)
    expect([load.version, load.show.about]).to eq([1, { name: "Test" }])
  end

  it "keeps nothing of a show that does not fit" do
    expect { shows.create({}, "rig/desk" => "rowan-16", "channel/1/gain" => 99) }.to raise_error(Loomshuttle::Invalid)
    expect(database[:shows].count).to eq(0)
  end

  it "saves an edit with version and journal in one" do
    loaded, changes = edit({ "channel/1/name" => "Tuba", "track/1/inputs" => [3] }, version: 1, label: "Name it")
    expect(loaded.version).to eq(2)
    expect(changes.size).to eq(2)
    expect(load.show).to eq(loaded.show)
    expect(shows.entries(id).first).to include(version: 2, kind: "edit", label: "Name it", who: "Ada")
    expect(shows.entries(id).first[:changes]).to include(Loomshuttle::Settings::Change.new(path: "track/1/inputs", from: [1], to: [3]))
  end

  it "turns old edits round as far as what they set is still there" do
    edit({ "channel/1/name" => "Tuba" })
    old = { "outlet/personal-1/first" => [1, 9], "channel/2/name" => ["Source 2", "Horn"] }.map { |path, (from, to)| { path: path, from: from, to: to } }
    [old, old.first(1)].each.with_index(3) do |changes, version|
      shows.apply(id, version: nil, who: "Ada", edit: Loomshuttle::Settings::Edit.set("Old", "channel/2/name" => "Horn #{version}"))
      database[:journal].where(version: version).update(changes: Sequel.pg_jsonb(changes))
    end
    expect(shows.at_version(id, 1).channels.values_at(1, 2).map(&:name)).to eq(["Source 1", "Source 2"])
    undone = Array.new(3) { shows.revert(id, version: nil, who: "Ada", kind: "undo").first }
    expect(undone.map(&:version)).to eq([5, 6, 7])
    expect(undone.last.show.channels.values_at(1, 2).map(&:name)).to eq(["Source 1", "Source 2"])
    expect(shows.undoable(id)).to include(undo: nil, redo: "edit")
  end

  it "makes no version for an edit that changes nothing" do
    expect(edit({ "channel/1/name" => "Source 1" }).last).to eq([])
    expect([load.version, shows.entries(id)]).to eq([1, []])
  end

  it "refuses a stale edit, tells what came between, and loses neither" do
    edit({ "channel/1/name" => "Tuba" }, version: 1, who: "Ada", label: "Name tuba")
    expect { edit({ "channel/2/name" => "Horn" }, version: 1, who: "Bram") }.to raise_error(Loomshuttle::Store::Stale, /Name tuba \(Ada\)/) { |stale| expect([stale.version, stale.entries.size]).to eq([2, 1]) }
    expect(load.show.channels.values_at(1, 2).map(&:name)).to eq(["Tuba", "Source 2"])
  end

  it "lets just one of two edits at once win, and the other know" do
    id
    results = Array.new(8) do |n|
      Thread.new do
        edit({ "channel/1/name" => "Name #{n}" }, version: 1, who: "t#{n}") && :done
      rescue Loomshuttle::Store::Stale
        :stale
      end
    end.map(&:value)
    expect(results.tally).to eq(done: 1, stale: 7)
    expect([load.version, shows.entries(id).size]).to eq([2, 1])
  end

  it "gives any earlier version back" do
    names = %w[A B C].map { |name| edit({ "channel/1/name" => name, "track/2/inputs" => [] }).first.show.channels[1].name }
    expect((1..4).map { |version| shows.at_version(id, version).channels[1].name }).to eq(["Source 1", *names])
    expect(shows.at_version(id, 1)).to eq(load.show.with(channels: shows.at_version(id, 1).channels, tracks: shows.at_version(id, 1).tracks))
    expect { shows.at_version(id, 9) }.to raise_error(Loomshuttle::Invalid, /no version 9; the show is at 4/)
  end

  it "pages the journal, newest first" do
    5.times { |n| edit({ "channel/1/name" => "N#{n}" }) }
    expect(shows.page(id, size: 2).map { |entry| entry[:version] }).to eq([6, 5])
    expect(shows.page(id, before: 5, size: 2).map { |entry| entry[:version] }).to eq([4, 3])
    expect(shows.entry(id, 3)[:changes].map(&:to)).to eq(["N1"])
  end

  it "reads nothing when somebody has the newest version already" do
    known = load
    expect(shows.load(id, known: known)).to equal(known)
    edit({ "channel/1/name" => "X" })
    expect(shows.load(id, known: known).version).to eq(2)
  end

  it "undoes and redoes, step by step, and an edit clears what could be redone" do
    edit({ "channel/1/name" => "A" }, label: "first")
    edit({ "channel/1/name" => "B" }, label: "second")
    undo = -> { shows.revert(id, version: nil, who: "Ada", kind: "undo").first.show.channels[1].name }
    redo_it = -> { shows.revert(id, version: nil, who: "Ada", kind: "redo").first.show.channels[1].name }
    expect([undo.call, undo.call, redo_it.call, redo_it.call, undo.call]).to eq(["A", "Source 1", "A", "B", "A"])
    expect(shows.undoable(id)).to eq(undo: "first", redo: "second")
    edit({ "channel/1/name" => "C" }, label: "third")
    expect(shows.undoable(id)).to eq(undo: "third", redo: nil)
    expect { redo_it.call }.to raise_error(Loomshuttle::Invalid, /nothing to redo/)
  end

  it "comes back to where it began, over random edits all undone" do
    random = Random.new(8)
    40.times do
      edit(random_choice(load.show, random))
    end
    shows.revert(id, version: nil, who: "Ada", kind: "undo") while shows.undoable(id)[:undo]
    expect(load.show).to eq(Loomshuttle::Settings::Show.load(CoreHelp::CATALOG, { name: "Test" }, straight.settings))
  end
end

RSpec.describe Loomshuttle::Store::Takes do
  let(:takes) { described_class.new(TestDatabase.empty) }
  let(:manifest) { { "id" => SecureRandom.uuid, "number" => 1, "frames" => 5, "tracks" => [] } }

  it "follows manifests that come, change and go" do
    expect(takes.reconcile([["/a", manifest]])).to eq(1)
    expect(takes.reconcile([["/a", manifest]])).to eq(0)
    expect(takes.reconcile([["/a", manifest.merge("frames" => 9)]])).to eq(1)
    expect(takes.all).to match([include("frames" => 9, "folder" => "/a")])
    expect(takes.reconcile([])).to eq(1)
    expect(takes.all).to eq([])
  end
end
