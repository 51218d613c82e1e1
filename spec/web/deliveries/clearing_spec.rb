# frozen_string_literal: true

RSpec.describe Loomshuttle::Web::Clearing, :folder do
  let(:recorder) { instance_double(Loomshuttle::Web::RecorderLink, up?: true, call: {}) }
  let(:deliveries) { instance_double(Loomshuttle::Web::Deliveries, used: nil, clear: nil) }
  let(:songs) { instance_double(Loomshuttle::Web::SongLibrary, take_over: nil, keep_stems: nil) }
  let(:jobs) { instance_double(Loomshuttle::Web::Jobs, all: [], ready: [], ready_songs: [], ready_stems: [], clear: nil) }
  let(:clearing) { described_class.new(jobs, deliveries, recorder, songs) }

  def job(name) = { "name" => name, "result" => File.join(@folder, name).tap { |path| FileUtils.mkdir_p(path) } }
  def turn = clearing.send(:turn)

  before { allow(Loomshuttle::Runtime::Health).to receive(:trouble) }

  it "hands takes, songs and stems over, and clears away what they were made of" do
    take, song, stems = %w[take song stems].map { |name| job(name) }
    allow(jobs).to receive_messages(ready: [take], ready_songs: [song], ready_stems: [stems])
    turn
    expect(recorder).to have_received(:call).with("take.adopt", folder: take["result"])
    expect(songs).to have_received(:take_over).with(song)
    expect(songs).to have_received(:keep_stems).with(stems)
    [take, song].each { |one| expect(deliveries).to have_received(:used).with(one) }
  end

  it "keeps what could not be handed over, tells it, and goes on with the others" do
    bad, good = job("bad"), job("good")
    allow(jobs).to receive_messages(ready: [bad, good], ready_songs: [bad, good])
    allow(recorder).to receive(:call) { |_, folder:| raise Loomshuttle::Invalid.new("no", where: "folder") if folder == bad["result"] }
    allow(songs).to receive(:take_over) { |one| raise Errno::ENOSPC if one == bad }
    turn
    expect(deliveries).to have_received(:used).with(good).twice
    expect(deliveries).not_to have_received(:used).with(bad)
    expect(Dir.exist?(bad["result"])).to be(true)
    expect(Loomshuttle::Runtime::Health).to have_received(:trouble).twice
  end

  it "asks no recorder that is away, and lets stems go whose song is gone" do
    stems = job("stems")
    allow(recorder).to receive(:up?).and_return(false)
    allow(jobs).to receive_messages(ready: [job("take")], ready_stems: [stems])
    allow(songs).to receive(:keep_stems).and_raise(Loomshuttle::Invalid.new("gone", where: "song"))
    turn
    expect(recorder).not_to have_received(:call)
    expect(Dir.exist?(stems["result"])).to be(false)
  end

  it "clears old deliveries and jobs away now and then, not each time" do
    now = 1000.0
    allow(Loomshuttle::Runtime::Clock).to receive(:now) { now }
    3.times { turn }
    expect(jobs).to have_received(:clear).once
    now += described_class::CLEAR
    turn
    expect([jobs, deliveries]).to all(have_received(:clear).twice)
  end
end
