# frozen_string_literal: true

RSpec.describe Loomshuttle::Porter::Room, :folder do
  let(:takes) { File.join(@folder, "takes").tap { |path| FileUtils.mkdir_p(path) } }
  let(:free) { [0] }
  let(:reserve) { described_class::RESERVE }

  def room = described_class.new(@folder, takes, free: ->(_) { free.first })
  def refused = raise_error(Loomshuttle::Invalid, /The disk has no room for it: 1 MB are missing/)

  def capturing(lanes)
    tracks = (1..lanes).map { |n| Damage::TAKE["tracks"].first.merge("number" => n, "file" => "#{n}.wav") }
    folder = File.join(takes, "0001 Set").tap { |path| FileUtils.mkdir_p(path) }
    File.write(File.join(folder, "take.json"), JSON.generate(Damage::TAKE.merge("state" => "capturing", "tracks" => tracks)))
  end

  it "keeps a reserve where takes are, and says how much is missing" do
    free.replace([reserve + 1000])
    expect { room.check(1000) }.not_to raise_error
    expect { room.check(1001) }.to refused
  end

  it "keeps half an hour of the take under way beside it" do
    capturing(4)
    needed = 4 * 48_000 * 3 * described_class::AHEAD
    free.replace([reserve + needed + 1000])
    expect { room.check(1000) }.not_to raise_error
    expect { room.check(1001) }.to raise_error(Loomshuttle::Invalid, /are kept free for the take under way/)
  end

  it "fills a disk without takes, and asks no disk that cannot tell" do
    allow(File).to receive(:stat).and_call_original
    allow(File).to receive(:stat).with(takes).and_return(instance_double(File::Stat, dev: -1))
    free.replace([1000])
    expect { room.check(1000) }.not_to raise_error
    expect { room.check(1001) }.to refused
    free.replace([nil])
    expect { room.check(1 << 60) }.not_to raise_error
  end

  it "asks the disk at most so often" do
    asked = 0
    one = described_class.new(@folder, takes, free: ->(_) { (asked += 1) && (reserve + 5000) })
    100.times { one.check }
    expect(asked).to be < 50
  end

  it "asks a disk that is slow to answer for a small part of the time only, and refuses again what it has refused" do
    now, asked = 0.0, 0
    allow(Loomshuttle::Runtime::Clock).to receive(:now) { now }
    one = described_class.new(@folder, takes, free: ->(_) { (asked += 1) && (now += 1.5) && free.first })
    free.replace([reserve + 5000])
    100.times do
      one.check
      now += 1
    end
    expect(asked).to be_between(2, 6)
    free.replace([reserve])
    now += 100
    2.times { expect { one.check(1) }.to refused }
  end
end
