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
      shows.apply(id, version: nil, who: "Ada", edit: Loomshuttle::Settings::Edit.set("Old", "channel/#{version - 1}/name" => "Horn"))
      database[:journal].where(version: version).update(changes: Sequel.pg_jsonb(changes))
    end
    expect(shows.at_version(id, 1).channels.values_at(1, 2).map(&:name)).to eq(["Source 1", "Source 2"])
    undone = Array.new(3) { shows.revert(id, who: "Ada", kind: "undo").first }
    expect(undone.map(&:version)).to eq([5, 6, 7])
    expect(undone.last.show.channels.values_at(1, 2).map(&:name)).to eq(["Source 1", "Source 2"])
    expect(shows.undoable(id, "Ada")).to include(undo: nil, redo: "edit")
  end

  context "when what can be undone was read before" do
    before { shows.undoable(id, "Ada", version: edit({ "channel/1/name" => "Tuba" }).first.version) }

    def asked
      log = []
      database.loggers << Logger.new(StringIO.new).tap { |logger| logger.define_singleton_method(:info) { |line| log << line[/\) (\w+)/, 1] } }
      [yield, log]
    ensure
      database.loggers.clear
    end

    it "takes four questions to save an edit, and none to say what can be undone then" do
      known = load
      (edited, told), questions = asked do
        two = Loomshuttle::Settings::Edit.set("Two", "channel/2/name" => "Horn", "send/1/source" => nil)
        edited = shows.apply(id, version: nil, who: "Ada", known: known, edit: two).first
        [edited, shows.undoable(id, "Ada", version: edited.version)]
      end
      expect(questions).to eq(%w[BEGIN SELECT INSERT COMMIT])
      expect([edited.show, told]).to eq([load.show, { undo: "Two", redo: nil }])
    end

    it "knows of undo and redo, each of whoever made it, without asking" do
      last = edit({ "channel/2/name" => "Horn" }, who: "Bram", label: "Bram's").first
      undone = shows.revert(id, who: "Ada", kind: "undo").first
      expect(asked { shows.undoable(id, "Ada", version: undone.version) }).to eq([{ undo: nil, redo: "edit" }, []])
      expect(shows.undoable(id, "Bram", version: last.version)).to eq(undo: "Bram's", redo: nil)
      shows.revert(id, who: "Ada", kind: "redo")
      expect(shows.undoable(id, "Ada", version: undone.version + 1)).to eq(undo: "edit", redo: nil)
    end

    it "reads of versions that another one has made" do
      others = described_class.new(database, CoreHelp::CATALOG)
      made = others.apply(id, version: nil, who: "Ada", edit: Loomshuttle::Settings::Edit.set("Elsewhere", "channel/3/name" => "Tin")).first
      edit({ "channel/4/name" => "Drum" }, label: "Here")
      expect(shows.undoable(id, "Ada", version: made.version + 1)[:undo]).to eq("Here")
      shows.revert(id, who: "Ada", kind: "undo")
      expect(shows.undoable(id, "Ada", version: made.version + 2)).to eq(undo: "Elsewhere", redo: "Here")
    end

    it "knows nothing of an edit that was not saved" do
      allow(database).to(receive(:fetch).and_wrap_original { |ask, sql| ask.call(sql) && raise(Sequel::DatabaseError, "the disk is full") })
      expect { edit({ "channel/2/name" => "Horn" }, label: "Lost") }.to raise_error(Sequel::DatabaseError)
      expect(asked { shows.undoable(id, "Ada", version: 2) }).to eq([{ undo: "edit", redo: nil }, []])
      expect(load).to have_attributes(version: 2)
    end
  end

  it "makes no version for an edit that changes nothing" do
    expect(edit({ "channel/1/name" => "Source 1" }).last).to eq([])
    expect([load.version, shows.entries(id)]).to eq([1, []])
  end

  it "refuses a stale edit, tells what came between, and loses neither" do
    edit({ "channel/1/name" => "Tuba" }, version: 1, who: "Ada", label: "Name tuba")
    edit({ "channel/3/name" => "Other" }, version: 2, who: "Mia", label: "Name other")
    expect { edit({ "channel/1/name" => "Horn" }, version: 1, who: "Bram") }.to raise_error(Loomshuttle::Store::Stale, /before your edit: Name tuba \(Ada\)\.\z/) { |stale| expect([stale.version, stale.entries.size]).to eq([3, 1]) }
    expect(load.show.channels.values_at(1, 3).map(&:name)).to eq(%w[Tuba Other])
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
    undo = -> { shows.revert(id, who: "Ada", kind: "undo").first.show.channels[1].name }
    redo_it = -> { shows.revert(id, who: "Ada", kind: "redo").first.show.channels[1].name }
    expect([undo.call, undo.call, redo_it.call, redo_it.call, undo.call]).to eq(["A", "Source 1", "A", "B", "A"])
    expect(shows.undoable(id, "Ada")).to eq(undo: "first", redo: "second")
    edit({ "channel/1/name" => "C" }, label: "third")
    expect(shows.undoable(id, "Ada")).to eq(undo: "third", redo: nil)
    expect { redo_it.call }.to raise_error(Loomshuttle::Invalid, /nothing to redo/)
  end

  describe "an edit that was made against an older version" do
    it "is applied to the newest one where nothing has changed that it reads or sets" do
      edit({ "channel/1/name" => "Tuba" }, version: 1)
      expect(edit({ "channel/2/name" => "Horn" }, version: 1, who: "Bram").first.version).to eq(3)
      expect(load.show.channels.values_at(1, 2).map(&:name)).to eq(%w[Tuba Horn])
    end

    it "is refused where what it was computed from has changed, though it sets something else" do
      edit({ "channel/1/name" => "Tuba" }, version: 1)
      computed = ->(show) { Loomshuttle::Settings::Edit.set("Like one", "channel/2/name" => "Second #{show.channels[1].name}") }
      expect { shows.apply(id, version: 1, who: "Bram", &computed) }.to raise_error(Loomshuttle::Store::Stale)
      expect(shows.apply(id, version: 2, who: "Bram", &computed).first.show.channels[2].name).to eq("Second Tuba")
    end

    it "is refused where it is no more what it was, and where a preamp that it shares was turned" do
      edit({ "channel/2/stage" => "desk/in/1" }, version: 1)
      expect { edit({ "channel/1/gain" => 30 }, version: 1) }.to raise_error(Loomshuttle::Store::Stale)
      edit({ "channel/1/gain" => 20 }, version: 2)
      expect { edit({ "channel/2/gain" => 25 }, version: 2) }.to raise_error(Loomshuttle::Store::Stale)
    end

    it "is refused when it is older than what is read for it, or of no version that there was" do
      stub_const("#{described_class}::LATELY", 3)
      5.times { |n| edit({ "channel/1/name" => "N#{n}" }) }
      expect { edit({ "channel/2/name" => "Horn" }, version: 2) }.to raise_error(Loomshuttle::Store::Stale) { |stale| expect(stale.entries.size).to eq(3) }
      expect(edit({ "channel/2/name" => "Horn" }, version: 3).first.version).to eq(7)
      expect { edit({ "channel/2/name" => "Cornet" }, version: 99) }.to raise_error(Loomshuttle::Store::Stale)
    end

    # What was accepted, done again one after the other on the show as it was.
    it "leaves what some order of the accepted edits makes, with ten editors at once" do
      stub_const("Loomshuttle::Store::Database::Deadline::SECONDS", 120) # how fast this machine is does not matter here
      id
      accepted = Queue.new
      editors = Array.new(10) do |number|
        Thread.new do
          random = Random.new(number)
          connection = described_class.new(Loomshuttle::Store::Database.connect(TestDatabase.postgres.url), CoreHelp::CATALOG)
          12.times do |nth|
            known = connection.load(id)
            Thread.pass while random.rand(3).zero?
            path = ["channel/#{random.rand(1..16)}/name", "track/#{random.rand(1..16)}/name"].sample(random: random)
            settings = { path => "#{number}-#{nth}" }
            loaded, = connection.apply(id, version: known.version, who: "editor #{number}", edit: Loomshuttle::Settings::Edit.set("e", settings))
            accepted << [loaded.version, settings]
          rescue Loomshuttle::Store::Stale => e
            expect(e.entries.flat_map { |entry| entry[:changes].map(&:path) }).to include(path)
          end
        end
      end
      editors.each(&:join)
      order = Array.new(accepted.size) { accepted.pop }.sort_by(&:first)
      replayed = order.reduce(straight) { |show, (_, settings)| Loomshuttle::Settings::Edit.set("e", settings).apply(show).first }
      expect(load.show.settings).to eq(replayed.settings)
      expect(order.map(&:first)).to eq((2..(order.size + 1)).to_a)
      expect(order.size).to be > 90 # of 120; before, most were refused
    end
  end

  describe "undo" do
    def undo(who, kind = "undo") = shows.revert(id, who: who, kind: kind).first.show

    it "is a person's own: newest first, whatever others have done since" do
      edit({ "channel/1/name" => "A" }, who: "Ada", label: "Ada's")
      edit({ "channel/2/name" => "B" }, who: "Bram", label: "Bram's")
      expect([shows.undoable(id, "Ada"), shows.undoable(id, "Bram")]).to eq([{ undo: "Ada's", redo: nil }, { undo: "Bram's", redo: nil }])
      expect(undo("Ada").channels.values_at(1, 2).map(&:name)).to eq(["Source 1", "B"])
      expect(shows.undoable(id, "Bram")).to eq(undo: "Bram's", redo: nil)
      expect { undo("Mia") }.to raise_error(Loomshuttle::Invalid, "You have nothing to undo.")
      expect(undo("Ada", "redo").channels[1].name).to eq("A")
    end

    it "says so and changes nothing where somebody else has changed the same since" do
      edit({ "channel/1/name" => "A", "channel/2/name" => "A" }, who: "Ada")
      edit({ "channel/2/name" => "B" }, who: "Bram")
      expect { undo("Ada") }.to raise_error(Loomshuttle::Invalid, /Bram has changed Channel 2 B, name since; nothing was changed by undo/)
      expect(load.show.channels.values_at(1, 2).map(&:name)).to eq(%w[A B])
      undo("Bram")
      expect(undo("Ada").channels.values_at(1, 2).map(&:name)).to eq(["Source 1", "Source 2"])
    end

    it "never moves what a channel hears: flips are in the journal and no part of it" do
      edit({ "channel/1/name" => "A" }, label: "Name")
      edit({ "channel/1/position" => "take", "channel/2/position" => "take" }, label: "2 channels to take")
      expect(shows.entries(id).last).to include(kind: "flip", label: "2 channels to take")
      expect(shows.undoable(id, "Ada")[:undo]).to eq("Name")
      edit({ "channel/3/name" => "C", "channel/3/position" => "take" }, label: "Both")
      shown = undo("Ada")
      expect([shown.channels[3].name, (1..3).map { |n| shown.channels[n].position }]).to eq(["Source 3", %w[take take take]])
      expect(undo("Ada").channels[1].name).to eq("Source 1")
      expect(shows.at_version(id, 1).channels.values_at(1, 3).map(&:position)).to eq(%w[take take])
    end

    it "knows people of a journal that names none, and flips of one that called them edits" do
      edit({ "channel/1/name" => "A" }, label: "Name")
      edit({ "channel/1/position" => "take" }, label: "Tuba to take")
      database[:journal].update(person: nil, kind: "edit")
      Sequel::Migrator.run(database, File.join(Loomshuttle::ROOT, "store", "migrations"), target: 5)
      Sequel::Migrator.run(database, File.join(Loomshuttle::ROOT, "store", "migrations"))
      expect(shows.entries(id).map { |entry| entry[:kind] }).to eq(%w[edit flip])
      expect(shows.undoable(id, "Ada")[:undo]).to eq("Name")
    end
  end

  it "comes back to where it began, over random edits all undone" do
    random = Random.new(8)
    40.times do
      edit(random_choice(load.show, random))
    end
    shows.revert(id, who: "Ada", kind: "undo") while shows.undoable(id, "Ada")[:undo]
    expect(load.show).to eq(Loomshuttle::Settings::Show.load(CoreHelp::CATALOG, { name: "Test" }, straight.settings))
  end
end

RSpec.describe Loomshuttle::Store::Database::Deadline do
  let(:asked) { Class.new { def log_connection_yield(_sql, _connection, _arguments = nil) = yield }.new.extend(described_class) }

  it "tells a question that was not answered from a commit that was not confirmed" do
    stub_const("#{described_class}::SECONDS", 0.05)
    expect { asked.log_connection_yield("SELECT 1", nil) { sleep } }.to raise_error(an_instance_of(Loomshuttle::Store::Database::Late))
    expect { asked.log_connection_yield("COMMIT", nil) { sleep } }.to raise_error(Loomshuttle::Store::Database::Unknown)
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
