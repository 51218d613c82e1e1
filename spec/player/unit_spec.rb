# frozen_string_literal: true

require "numo/pocketfft"

RSpec.describe Loomshuttle::Player::Unit, :folder do
  let(:strings) { SongFolder.noise(96_000) }
  let(:rig) { VirtualPlayback.new(@folder) }

  # A song of two seconds on output 1, its click on 3, and the pilot on 4.
  def ready(pilot: false, **changes)
    id = SongFolder.write(@folder, { "Strings" => strings }, click: { "on" => false }, **changes)
    roles = [["Strings", "parts", 1], ["Click", "click", 3], ["Pilot", "pilot", 4]].map { |name, kind, output| { "name" => name, "kind" => kind, "outputs" => [output] } }
    rig.player.configure(items: [{ "key" => 5, "song" => id }], roles: roles, pilot: { "hz" => 18_000, "level_db" => -30, "mute" => !pilot })
    rig.run(0.1)
    rig.player.load(item: 5)
    rig.run(0.1).forget
    rig.player
  end

  # Where a sound begins in what was heard, and that it is exactly that.
  def at_output(heard, sound)
    first = heard.index { |sample| !sample.zero? }
    expect(heard[first, sound.size]).to eq(sound.to_a)
    first
  end

  it "asks for the way that is set by now before a song begins, and at no other command" do
    asked = []
    player = ready
    player.before_play = -> { asked << player.deck.playing? }
    player.command("play")
    rig.run(0.1)
    %w[around stop].each { |command| player.command(command) }
    expect(asked).to eq([false])
  end

  it "brings a stem out of the interface's output bit by bit, and to the desk's socket" do
    ready.command("play")
    rig.run(2.5)
    expect(at_output(rig.output(1), strings)).to be < 2000
    expect(rig.output(2).uniq).to eq([0])
    expect(rig.player.status).to include("state" => "ready", "missed" => 0, "items" => [{ "key" => 5, "played" => true }])
  end

  it "arrives in the desk's channel bit by bit" do
    { "strip/1/stage" => "in/1", "strip/1/gain" => 0.0, "card/send/1/from" => "ch/1", "card/send/1/tap" => "channel-in" }
      .each { |address, value| rig.desk.settings.set(address, value) }
    sent = []
    rig.desk.instance_variable_get(:@card_out).instance_variable_set(:@send, ->(stream, bytes) { sent << bytes if stream.zero? })
    ready.command("play")
    rig.run(2.5)
    lane = sent.flat_map { |bytes| Loomshuttle::Audio::Pcm24.from_network(Loomshuttle::Formats::Rtp.unpack(bytes).payload, 8)[true, 0].to_a }
    at_output(lane, strings)
  end

  it "keeps playing while the disk stalls, and begins only with what it needs in memory" do
    ready.command("play")
    rig.run(1.5, reading: false)
    expect(rig.player.status).to include("state" => "playing", "missed" => 0)
    rig.run(1)
    at_output(rig.output(1), strings)
  end

  it "is silent at every output within 10 ms of a panic, also of what was sent ahead, without a step" do
    loud = Numo::Int32.cast((Numo::NMath.sin(Numo::DFloat.new(96_000).seq * (2 * Math::PI * 200 / 48_000)) * 8_000_000).round)
    SongFolder.write(@folder, { "Strings" => loud })
    player = ready(pilot: true)
    SongFolder.write(@folder, { "Strings" => loud }, click: { "on" => false })
    player.load(item: 5)
    player.command("play")
    rig.run(0.5).forget
    player.command("panic")
    rig.run(0.2)
    heard = rig.output(1)
    expect(heard.rindex { |sample| !sample.zero? }).to be < 480
    expect(heard.each_cons(2).map { |one, other| (one - other).abs }.max).to be < 8_000_000 * 2 * Math::PI * 200 / 48_000 * 1.3
    expect(rig.output(4).last(480).map(&:abs).max).to be > 200_000
  end

  # The pilot's level and frequency by an FFT, over a second that holds whole periods, while a song begins and ends.
  it "sends the pilot without a seam, at its frequency and level" do
    player = ready(pilot: true)
    player.command("play")
    rig.run(1)
    spectrum = Numo::Pocketfft.rfft(Numo::DFloat[*rig.output(4)] / (1 << 23)).abs / 24_000
    expect(spectrum.max_index).to eq(18_000)
    expect(20 * Math.log10(spectrum[18_000])).to be_within(0.01).of(-30)
    expect(20 * Math.log10(spectrum[0..17_990].max)).to be < -130
  end

  it "changes the pilot while nothing plays, tells its level, and is silent without it" do
    player = ready(pilot: true)
    strongest = lambda do |seconds|
      rig.run(0.1)
      rig.forget
      rig.meters.clear
      rig.run(seconds)
      spectrum = Numo::Pocketfft.rfft(Numo::DFloat[*rig.output(4)]).abs
      spectrum.max.zero? ? nil : (spectrum.max_index / seconds).round
    end
    expect([strongest.call(1), rig.meters.last["outputs"][3]]).to match([18_000, be_within(0.1).of(-30)])
    player.configure(pilot: { "hz" => 12_345, "level_db" => -40, "mute" => false })
    expect(strongest.call(0.5)).to be_within(2).of(12_345)
    player.configure(pilot: { "hz" => 12_345, "level_db" => -40, "mute" => true })
    expect([strongest.call(1), rig.meters.last["outputs"][3]]).to eq([nil, -144.0])
  end

  it "goes on where it is when the interface's clock begins again, and says when there is none" do
    ready.command("play")
    rig.run(0.5)
    rig.interface.at(7)
    rig.run(0.3)
    expect(rig.player.status).to include("restarts" => 1, "state" => "playing", "clock" => true)
    expect(rig.player.status["position"]).to be_within(6000).of(38_400)
    rig.run(1, connected: false)
    expect(rig.player.status["clock"]).to be(false)
    expect { rig.player.command("play") }.to raise_error(Loomshuttle::Invalid, /No clock from/)
  end

  it "says what is wrong with a stem, and plays the others" do
    SongFolder.write(@folder, { "Strings" => strings, "Loop" => strings }, click: { "on" => false })
    File.write(File.join(@folder, "00000000-0000-4000-8000-000000000001", "2.wav"), "no sound")
    rig.player.configure(items: [{ "key" => 5, "song" => "00000000-0000-4000-8000-000000000001" }], roles: [{ "name" => "Strings", "kind" => "parts", "outputs" => [1] }])
    rig.run(0.1)
    rig.player.load(item: 5)
    rig.player.command("play")
    rig.run(2.5)
    at_output(rig.output(1), strings)
    expect(rig.player.status["troubles"]).to match([/Loop: 2.wav is not a WAV file/])
  end

  it "refuses a song that is gone, is at another rate, or is none, and what plays goes on" do
    player = ready
    player.command("play")
    other = "00000000-0000-4000-8000-000000000002"
    SongFolder.write(@folder, { "Strings" => strings }, id: other, rate: 44_100)
    player.configure(items: [{ "key" => 5, "song" => "00000000-0000-4000-8000-000000000001" }, { "key" => 6, "song" => other }, { "key" => 7, "song" => other.tr("2", "3") }])
    expect(player.status["problem"]).to match(/stored at 44.1 kHz/)
    expect { player.load(item: 6) }.to raise_error(Loomshuttle::Invalid, /44.1 kHz/)
    expect { player.load(item: 7) }.to raise_error(Loomshuttle::Invalid, /not in this computer's library/)
    expect { player.load(item: 8) }.to raise_error(Loomshuttle::Invalid, /no song 8/)
    rig.run(1)
    expect(player.status).to include("state" => "playing")
  end

  it "tells levels of outputs, twenty times a second" do
    ready.command("play")
    rig.run(1)
    expect(rig.meters.size).to be_between(19, 28)
    expect(rig.meters.last["outputs"].first).to be_within(0.1).of(-6)
  end

  it "tells levels that stay the same twice a second" do
    ready(pilot: true)
    rig.run(1)
    rig.meters.clear
    rig.run(4)
    expect(rig.meters.size).to be_between(7, 9)
    rig.interface.at(7)
    rig.meters.clear
    rig.run(2)
    expect(rig.meters.size).to be_between(3, 5)
  end

  # espeak-ng's own words, each of which begins where its beat is; a voice that there is not is said, and the song goes on.
  it "speaks the guide so that words begin on their beats, and timecode along the song" do
    sections = [{ "key" => 1, "name" => "Intro", "bar" => 1 }, { "key" => 2, "name" => "Verse", "bar" => 3 }]
    SongFolder.write(@folder, { "Strings" => SongFolder.noise(48_000 * 10) })
    ready(tempos: [{ "at" => 0, "bpm" => 120 }], guide: { "on" => true })
    SongFolder.write(@folder, { "Strings" => SongFolder.noise(48_000 * 10) }, click: { "on" => false }, guide: { "on" => true }, sections: sections)
    rig.player.configure(roles: [{ "name" => "Guide", "kind" => "guide", "outputs" => [2] }, { "name" => "LTC", "kind" => "timecode", "outputs" => [5] }])
    rig.player.load(item: 5)
    rig.player.command("play")
    rig.run(5)
    begin_at = rig.output(5).index { |sample| !sample.zero? }
    guide = rig.output(2).drop(begin_at)
    [2, 3, 4].each do |beat|
      at = 96_000 + ((beat - 1) * 24_000)
      expect(guide[(at - 2400)...at].map(&:abs).max).to be < guide[at...(at + 4800)].map(&:abs).max / 4.0
      expect(guide[at].abs).to be > 0.009 * (10**(-12 / 20.0)) * (1 << 23)
    end
    expect(guide.first(48_000).uniq).to eq([0])
    expect(rig.player.status["troubles"]).to eq([])
  end

  it "says when there is no such voice, and plays the song all the same" do
    sections = [{ "key" => 1, "name" => "Intro", "bar" => 1 }, { "key" => 2, "name" => "Verse", "bar" => 2 }]
    ready
    SongFolder.write(@folder, { "Strings" => SongFolder.noise(48_000 * 5) }, click: { "on" => false }, guide: { "on" => true, "voice" => "xqz" }, sections: sections)
    rig.player.load(item: 5)
    rig.player.command("play")
    rig.run(1)
    expect(rig.player.status).to include("state" => "playing", "troubles" => ["The guide cannot speak: There is no voice xqz."])
  end

  def two_songs(**changes)
    first = SongFolder.write(@folder, { "Strings" => strings }, click: { "on" => false }, follows: "on", **changes)
    other = SongFolder.write(@folder, { "Strings" => SongFolder.noise(480_000, 9) }, id: "00000000-0000-4000-8000-000000000002", click: { "on" => false })
    [{ "key" => 1, "song" => first, "version" => 1 }, { "key" => 2, "song" => other, "version" => 1 }]
  end

  it "plays on from song to song on its own, while the show is edited all the time" do
    items = two_songs
    rig.player.configure(items: items, roles: [{ "name" => "Strings", "kind" => "parts", "outputs" => [1] }])
    rig.run(0.1)
    rig.player.load(item: 1)
    rig.player.command("play")
    25.times do
      rig.run(0.1)
      rig.player.configure(items: items)
    end
    expect(rig.player.status).to include("item" => 2, "state" => "playing", "missed" => 0, "troubles" => [])
    expect(rig.player.status["items"]).to eq([{ "key" => 1, "played" => true }, { "key" => 2, "played" => false }])
    rig.forget
    rig.run(7)
    expect(rig.output(1).each_slice(4800).map { |slice| slice.map(&:abs).max }.min).to be > 1_000_000
  end

  it "takes a song that was changed as it is now once it does not play, and what follows at once" do
    items = two_songs
    rig.player.configure(items: items, roles: [{ "name" => "Strings", "kind" => "parts", "outputs" => [1] }])
    rig.run(0.1)
    rig.player.load(item: 1)
    SongFolder.write(@folder, { "Strings" => SongFolder.noise(48_000, 4) }, click: { "on" => false }, name: "Other words", version: 2)
    rig.player.configure(items: [items[0].merge("version" => 2), items[1]])
    expect(rig.player.status).to include("name" => "Other words", "frames" => 48_000, "next" => "Tide")
    rig.player.configure(items: [items[0].merge("version" => 2)])
    expect(rig.player.status["next"]).to be_nil
  end
end
