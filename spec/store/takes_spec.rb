# frozen_string_literal: true

RSpec.describe Loomshuttle::Store::Takes do
  let(:database) { TestDatabase.empty }
  let(:takes) { described_class.new(database) }
  let(:one) { Damage::TAKE }

  it "finds takes again in a home that was moved" do
    expect(takes.reconcile([["/old/takes/0001 Good", one]])).to eq(1)
    expect(takes.reconcile([["/old/takes/0001 Good", one]])).to eq(0)
    expect(takes.reconcile([["/new/takes/0001 Good", one]])).to eq(1)
    expect(takes.all.map { |take| take["folder"] }).to eq(["/new/takes/0001 Good"])
  end

  it "keeps what it can where one cannot be kept" do
    bad = one.merge("id" => "ffffffff-4a53-4c0e-9f0e-0d6f0f1d2c3b", "number" => 2**40)
    expect { takes.reconcile([["/t/1", bad], ["/t/2", one]]) }.to output(/keeping take/).to_stderr
    expect(takes.all.map { |take| take["number"] }).to eq([1])
  end
end

RSpec.describe Loomshuttle::Store::Database do
  it "gives up on a database that does not answer in time, and on nothing else" do
    stub_const("#{described_class}::Deadline::SECONDS", 0.2)
    db = described_class.connect(TestDatabase.postgres.url)
    expect(db.get(1)).to eq(1)
    expect { db.get(Sequel.function(:pg_sleep, 5)) }.to raise_error(described_class::Late, /within 0.2 s/)
    expect(db.get(2)).to eq(2)
  ensure
    db&.disconnect
  end

  it "can be connected to while it is away, and then answers" do
    port = Tools.free_tcp_port
    db = described_class.connect("postgres://app:x@127.0.0.1:#{port}/loomshuttle")
    expect { db.get(1) }.to raise_error(Sequel::DatabaseConnectionError)
  end
end
