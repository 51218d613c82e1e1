# frozen_string_literal: true

# A disk that takes its time to open a song holds up nobody: not the clock, not reading ahead, not stop, panic and the foot.
RSpec.describe Loomshuttle::Player::Opener, :folder do
  let(:rig) { VirtualPlayback.new(@folder) }
  let(:player) { rig.player }
  let(:songs) { (1..3).map { |n| format("00000000-0000-4000-8000-%012d", n) } }
  let(:held) { Queue.new }

  before do
    songs.each_with_index { |id, at| SongFolder.write(@folder, { "Strings" => SongFolder.noise(48_000 * 3, at + 1) }, id: id, click: { "on" => false }, follows: "on") }
    player.configure(items: songs.each_with_index.map { |id, at| { "key" => at + 1, "song" => id } }, roles: [{ "name" => "Strings", "kind" => "parts", "outputs" => [1] }])
    rig.run(0.1)
  end

  after do
    held.close
    player.opener.stop
  end

  # From now on the disk delivers a song only on request. @return [Queue] tells that somebody waits for it
  def slow(id)
    asked = Queue.new
    allow_any_instance_of(Loomshuttle::Player::SongReader).to receive(:open).and_wrap_original do |open, song, *more| # rubocop:disable RSpec/AnyInstance
      if song == id
        asked << song
        held.pop
      end
      open.call(song, *more)
    end
    asked
  end

  # What must not wait for anybody.
  def at_once(what, &block) = Thread.new(&block).tap { |thread| thread.join(10) || raise("#{what} waits for the disk") }.value

  it "lets what plays be read ahead and stopped while the next song is being opened" do
    asked = slow(songs[1])
    player.opener.start
    player.load(item: 1)
    asked.pop
    player.command("play")
    rig.run(1)
    expect(player.status).to include("state" => "playing", "missed" => 0)
    at_once("status") { player.status }
    at_once("stop") { player.command("stop") }
    rig.run(0.1).forget
    rig.run(0.1)
    expect(rig.output(1).uniq).to eq([0])
    at_once("play") { player.command("play") }
    at_once("panic") { player.command("panic") }
  end

  it "begins the next song as soon as it is open where that is late" do
    asked = slow(songs[1])
    player.opener.start
    player.load(item: 1)
    asked.pop
    player.command("play")
    rig.run(3.5).forget
    expect(player.status).to include("state" => "pausing", "item" => 1)
    held << :now
    Tools.wait_until(20, "the next song") { rig.run(0.05) && player.status["item"] == 2 }
    expect(player.status["state"]).to eq("playing")
    rig.run(0.1)
    expect(rig.output(1).map(&:abs).max).to be > 100_000
  end

  it "does not begin a song that the foot asked for once somebody pressed stop before it was open" do
    asked = slow(songs[0])
    player.opener.start
    at_once("the foot") { player.go(waiting: false) }
    asked.pop
    at_once("stop") { player.command("stop") }
    held << :now
    Tools.wait_until(20, "the song to be on") { player.status["item"] == 1 }
    rig.run(0.3)
    expect(player.status["state"]).to eq("ready")
    expect(rig.output(1).uniq).to eq([0])
    player.go(waiting: false)
    Tools.wait_until(20, "the song") { player.status["state"] == "playing" }
  end

  it "tells what cannot be opened, to whoever waits for it and in the status" do
    File.write(File.join(@folder, songs[0], "song.json"), "{")
    player.opener.start
    expect { player.load(item: 1) }.to raise_error(Loomshuttle::Invalid, /song.json/)
    player.go(waiting: false)
    Tools.wait_until(20, "the words") { player.status["problem"] }
  end

  it "gives up waiting for a disk that never answers, and says so" do
    stub_const("#{described_class}::PATIENCE", 0.1)
    slow(songs[0])
    player.opener.start
    expect { player.load(item: 1) }.to raise_error(Loomshuttle::Invalid, /still loading; its disk is slow/)
  end
end
