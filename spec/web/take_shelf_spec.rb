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
    states = found.transform_values { |one| one["state"] }
    expect(states).to eq("0001 Good" => "complete", **(2..5).to_h { |n| [found.keys[n - 1], "unreadable"] })
    expect(found["0004 List"]).to include("number" => 4, "note" => /take.json is an object/)
    expect(found["0005 Without"]["note"]).to match(/has no take.json; its files are left as they are/)
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
