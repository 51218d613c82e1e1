# frozen_string_literal: true

RSpec.describe Loomshuttle::Web::TakeShelf, :folder do
  let(:takes) { instance_double(Loomshuttle::Store::Takes, reconcile: 1) }
  let(:changes) { [] }
  let(:shelf) { described_class.new(@folder, takes, on_change: -> { changes << 1 }) }

  def take(name, manifest)
    FileUtils.mkdir_p(File.join(@folder, name))
    File.write(File.join(@folder, name, "take.json"), manifest)
  end

  def good(**more) = Damage::TAKE.merge(more.transform_keys(&:to_s))

  def found
    list = []
    allow(takes).to receive(:reconcile) { |all| list.replace(all) && 1 }
    shelf.reconcile
    list.to_h { |folder, one| [File.basename(folder), one] }
  end

  it "follows what it understands, and tells what it does not as what it is" do
    take("0001 Good", JSON.generate(good))
    take("0002 Broken", "{")
    take("0003 Foreign", JSON.generate({ "format" => "something else" }))
    take("0004 List", "[]")
    take("none of ours", "[]")
    FileUtils.mkdir_p(File.join(@folder, "0005 Without"))
    seen = found
    expect(seen.transform_values do |one|
      one["state"]
    end).to eq("0001 Good" => "complete", "0002 Broken" => "unreadable", "0003 Foreign" => "unreadable", "0004 List" => "unreadable",
               "0005 Without" => "unreadable")
    expect(seen["0004 List"]).to include("number" => 4, "note" => /take.json must be an object/)
    expect(seen["0005 Without"]["note"]).to match(/has no take.json; its files are left as they are/)
    expect(changes).not_to be_empty
  end

  it "takes the longer copy of a take that ended in its mirror, also while the first disk is gone" do
    second = File.join(@folder, "second")
    take("0001 Set", JSON.generate(good(frames: 100, state: "ended early", mirror: { "folder" => second })))
    take("second/0001 Set", JSON.generate(good(frames: 900, mirror: { "folder" => second })))
    expect(found.values).to match([include("frames" => 900, "state" => "complete")])
    FileUtils.rm_rf(File.join(@folder, "0001 Set"))
    shelf.mirror = second
    expect(found.values).to match([include("frames" => 900)])
  end

  it "reads a manifest again only when it has changed, and asks the database only then" do
    5.times { |n| take("000#{n + 1} Set", JSON.generate(good(number: n + 1, id: "00000000-0000-4000-8000-00000000000#{n}"))) }
    read = 0
    allow(Loomshuttle::Formats::TakeManifest).to(receive(:read).and_wrap_original { |original, folder| (read += 1) && original.call(folder) })
    asked = 0
    allow(takes).to receive(:reconcile) { (asked += 1) && 0 }
    3.times { shelf.reconcile }
    expect([read, asked, shelf.all.map { |one| one["number"] }]).to eq([5, 1, [5, 4, 3, 2, 1]])
    expect(shelf.all).to equal(shelf.all)
    path = File.join(@folder, "0002 Set", "take.json")
    Loomshuttle::Runtime::Files.replace(path, JSON.generate(good(number: 2, id: "00000000-0000-4000-8000-000000000001", name: "Other")))
    shelf.reconcile
    expect([read, asked, shelf.all.map { |one| one["name"] }.count("Other")]).to eq([6, 2, 1])
    FileUtils.rm_rf(File.dirname(path))
    shelf.reconcile
    expect([read, asked, shelf.all.size]).to eq([6, 3, 4])
    FileUtils.touch(File.join(@folder, "0001 Set", ".aside"))
    expect(shelf.all.map { |one| one["state"] }).to include("unreadable")
  end

  it "keeps looking until the database is back" do
    calls = 0
    store = Object.new
    store.define_singleton_method(:reconcile) { |_| (calls += 1) < 3 ? raise(Sequel::DatabaseConnectionError, "away") : 1 }
    back = Queue.new
    shelf = described_class.new(@folder, store, on_change: -> { back << true })
    expect do
      shelf.start
      Tools.wait_until(60, "the third try") { shelf.look && !back.empty? }
      shelf.stop
    end.to output(/follows takes: .*away/).to_stderr
  end
end
