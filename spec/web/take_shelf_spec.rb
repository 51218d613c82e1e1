# frozen_string_literal: true

RSpec.describe Loomshuttle::Web::TakeShelf, :folder do
  let(:takes) { instance_double(Loomshuttle::Store::Takes, reconcile: 1) }
  let(:changes) { [] }
  let(:shelf) { described_class.new(@folder, takes, on_change: -> { changes << 1 }) }

  def take(name, manifest)
    FileUtils.mkdir_p(File.join(@folder, name))
    File.write(File.join(@folder, name, "take.json"), manifest)
  end

  it "follows what it understands, and passes over what it does not" do
    take("0001 Good", JSON.generate({ "format" => "loomshuttle-take/1", "id" => "x" }))
    take("0002 Broken", "{")
    take("0003 Foreign", JSON.generate({ "format" => "something else" }))
    shelf.reconcile
    expect(takes).to have_received(:reconcile).with([[File.join(@folder, "0001 Good"), include("id" => "x")]])
    expect(changes).to eq([1])
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
    end.to output(/could not be followed yet: away/).to_stderr
  end
end
