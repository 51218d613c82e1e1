# frozen_string_literal: true

RSpec.describe Loomshuttle::StandIns::Desk::Unit do
  let(:packets) { Hash.new { |hash, stream| hash[stream] = [] } }
  let(:replies) { [] }
  let(:clock) { { now: 0.0 } }
  let(:desk) do
    described_class.new(VirtualRig.model, ports: { sends: 5000, returns: 6000 }, now: -> { clock[:now] }, session: 5, stage: VirtualRig.stage,
                                          card: ->(stream, bytes) { packets[stream] << Loomshuttle::Formats::Rtp.unpack(bytes) },
                                          reply: lambda { |peer, bytes|
                                            Loomshuttle::Formats::Osc.unpack(bytes).each do |message|
                                              replies << [peer, message.address, *message.arguments]
                                            end
                                          })
  end

  def ask(address, *arguments, peer: :me)
    desk.control.receive(Loomshuttle::Formats::Osc.pack(address, *arguments), peer)
    replies.last
  end

  def set(values) = values.each { |address, value| desk.settings.set(address, value) }

  # Samples of a card send over some steps.
  def lane(number, steps = 20)
    packets.clear
    steps.times { desk.step }
    stream, at = (number - 1).divmod(8)
    bytes = packets[stream].map(&:payload).join
    Loomshuttle::Audio::Pcm24.from_network(bytes, desk.send_streams[stream].lanes)[true, at]
  end

  describe "control" do
    it "answers a set with the value it keeps, and a get with the same" do
      expect(ask("/set", 7, "strip/3/gain", 31.0)).to eq([:me, "/value", 7, "strip/3/gain", 31.0])
      expect(ask("/get", 8, "strip/3/gain")).to eq([:me, "/value", 8, "strip/3/gain", 31.0])
    end

    {
      ["/set", 1, "strip/3/gain", 99.0] => /0 to 60/, ["/set", 1, "strip/3/gain", 10.5] => /steps of 1/, ["/set", 1, "strip/99/gain", 1.0] => %r{no strip/99},
      ["/set", 1, "strip/3/stage", "in/40"] => %r{in/1 to card/20}, ["/set", 1, "strip/17/stage", "in/2"] => /odd lane/, ["/set", 1, "strip/3/hears"] => /one value/,
      ["/set", 1, "card/send/1/from", "ch/17"] => %r{no "ch/17" to send}, ["/set", 1, "clock", 5] => /only be read/, ["/jump", 1, "strip/3/gain"] => /not a request/,
      ["/subscribe", 1, "meters", 500] => /0 to 30/, ["/subscribe", 1, "weather", 5] => /changes or meters/, ["/get", "x"] => /number and an address/
    }.each do |request, reason|
      it "refuses #{request.join(' ')} with a reason, and changes nothing" do
        revision = desk.settings.revision
        expect(ask(*request)).to match([:me, "/refused", anything, anything, reason])
        expect(desk.settings.revision).to eq(revision)
      end
    end

    it "refuses what is not OSC" do
      desk.control.receive("hello", :me)
      expect(replies.last).to match([:me, "/refused", 0, "", /not an OSC packet/])
    end

    it "tells subscribers of changes, by anybody, until the subscription ends" do
      ask("/subscribe", 1, "changes", 10, peer: :watcher)
      ask("/set", 2, "strip/1/label", "Tuba")
      expect(replies.last).to eq([:watcher, "/changed", desk.settings.revision, "strip/1/label", "Tuba"])
      clock[:now] = 11.0
      expect(ask("/set", 3, "strip/1/label", "Horn").first).to eq(:me)
    end

    it "has one preamp at a socket, which all who hear it turn, and tells of each" do
      { "strip/1/stage" => "in/1", "strip/1/gain" => 20.0, "strip/1/phantom" => 1, "strip/11/gain" => 35.0 }.each { |address, value| ask("/set", 1, address, value) }
      ask("/subscribe", 1, "changes", 10, peer: :watcher)
      ask("/set", 2, "strip/11/stage", "in/1")
      expect([ask("/get", 3, "strip/11/gain").last, ask("/get", 4, "strip/11/phantom").last]).to eq([20.0, 1])
      ask("/set", 5, "strip/11/gain", 27.0)
      expect(ask("/get", 6, "strip/1/gain").last).to eq(27.0)
      told = replies.select { |one| one.first(2) == [:watcher, "/changed"] }
      expect(told.map { |one| one[3] }).to eq(%w[strip/11/stage strip/11/gain strip/11/phantom strip/11/gain strip/1/gain])
      expect(told.map { |one| one[2] }.each_cons(2).map { |one, next_one| next_one - one }.uniq).to eq([1])
    end

    it "sends meters 20 times a second to those who asked" do
      ask("/subscribe", 1, "meters", 10)
      100.times { desk.step }
      meters = replies.select { |one| one[1] == "/meters" }
      expect(meters.size).to eq(20)
      expect(meters.first.last.bytesize).to eq((18 + 2 + 10) * 4)
    end

    it "describes its streams" do
      streams = Loomshuttle::Formats::Sdp.read(ask("/get", 1, "card/sends/sdp").last)
      expect(streams.map { |stream| [stream.first, stream.lanes, stream.rate] }).to eq([[1, 8, 48_000], [9, 8, 48_000], [17, 4, 48_000]])
    end
  end

  describe "card" do
    it "sends one packet a millisecond and stream, numbered and stamped without a break" do
      100.times { desk.step }
      expect(packets.values.map(&:size)).to eq([1000, 1000, 1000])
      expect(packets[0].map(&:sequence)).to eq((0...1000).to_a)
      expect(packets[0].map(&:timestamp)).to eq((0...1000).map { |n| n * 48 })
      expect(packets[0].first.payload.bytesize).to eq(48 * 8 * 3)
    end

    it "plays returns at the sample they are stamped with, and counts late ones" do
      payload = Loomshuttle::Audio::Pcm24.to_network(Numo::Int32.new(48, 8).fill(4242))
      packet = ->(time) { Loomshuttle::Formats::Rtp.pack(sequence: 1, timestamp: time, source: 1, payload: payload) }
      set("strip/1/take" => "card/1", "strip/1/hears" => "take", "card/send/1/from" => "ch/1", "card/send/1/tap" => "channel-in")
      desk.card_in.push(0, packet.call(1000))
      expect(lane(1, 3).to_a.each_with_index.filter_map { |value, at| at if value == 4242 }).to eq((1000...1048).to_a)
      desk.card_in.push(0, packet.call(1000))
      expect(desk.card_in.late).to eq(1)
    end

    it "plays packets that follow on each other as it plays single ones, and counts those of them that are late" do
      packets = Array.new(4) { |nth| Loomshuttle::Formats::Rtp.pack(sequence: nth, timestamp: 432 + (nth * 48), source: 1, payload: Random.new(nth).bytes(1152)) }
      blocks = [packets, Loomshuttle::Formats::RtpRuns.of(packets, 24)].map do |arrived|
        input = Loomshuttle::StandIns::LanesIn.new(desk.return_streams.first(1))
        input.read(0, 480)
        arrived.each { |one| input.push(0, one) }
        [input.late, input.read(480, 480)]
      end
      expect(blocks.map(&:first)).to eq([1, 1])
      expect(blocks.first.last.ne(0).count_true).to be > 1000
      expect(blocks.last.last).to eq(blocks.first.last)
    end

    it "carries two lanes in two-lane mode" do
      set("strip/3/stage" => "in/4", "strip/3/gain" => 30.0, "card/send/3/from" => "ch/3")
      expect(lane(3).abs.max).to be > 0
      set("card/mode" => "2 lanes")
      expect(lane(3).abs.max).to eq(0)
    end
  end

  describe "sound" do
    before { set("strip/4/stage" => "in/4", "strip/4/gain" => 30.0, "card/send/1/from" => "ch/4") }

    def peak(tap)
      set("card/send/1/tap" => tap)
      lane(1, 160).abs.max
    end

    it "is the same for the same seed, sample for sample" do
      other = Loomshuttle::StandIns::Stage::PlayersOnStage.new(%w[in/1 in/2 in/3 in/4])
      expect(other.read(0, 48_000)).to eq(VirtualRig.stage.read(0, 48_000)[true, 0..3])
    end

    it "is none where a channel has no socket, however far its preamp is up" do
      expect(lane(1, 160).abs.max).to be > 0
      set("strip/4/stage" => "", "strip/4/gain" => 40.0)
      expect(lane(1, 160).abs.max).to eq(0)
    end

    it "raises the level by what the preamp is raised" do
      before = lane(1, 1600).abs.max
      set("strip/4/gain" => 36.0)
      expect(20 * Math.log10(lane(1, 1600).abs.max / before.to_f)).to be_within(0.05).of(6)
    end

    it "clips at full scale and not beyond" do
      set("strip/4/gain" => 60.0)
      expect(lane(1, 100).to_a.minmax).to eq([-8_388_608, 8_388_607])
    end

    it "differs between the taps as a channel does" do
      set("strip/4/fader" => -20.0)
      levels = %w[preamp channel-in pre-eq post-eq post-fader].to_h { |tap| [tap, peak(tap)] }
      expect(levels["preamp"]).to be_within(levels["preamp"] * 0.2).of(levels["channel-in"])
      expect(levels["post-eq"]).not_to eq(levels["pre-eq"])
      expect(levels["post-fader"]).to be < levels["post-eq"] * 0.15
    end

    it "leaves the preamp with the stage while the channel is on take" do
      set("strip/4/hears" => "take", "card/send/2/from" => "ch/4", "card/send/2/tap" => "channel-in")
      packets.clear
      20.times { desk.step }
      block = Loomshuttle::Audio::Pcm24.from_network(packets[0].map(&:payload).join, 8)
      expect(block[true, 0].abs.max).to be > 0
      expect(block[true, 1].abs.max).to eq(0)
    end

    it "reaches buses and main" do
      set("strip/4/bus/2" => 0.0, "card/send/2/from" => "bus/2", "card/send/2/tap" => "post-fader", "card/send/3/from" => "main/r", "card/send/3/tap" => "post-fader")
      packets.clear
      20.times { desk.step }
      block = Loomshuttle::Audio::Pcm24.from_network(packets[0].map(&:payload).join, 8)
      expect([1, 2].map { |at| block[true, at].abs.max }).to all(be > 0)
    end
  end

  it "keeps its settings over a restart", :folder do
    path = File.join(@folder, "desk.json")
    memory = Loomshuttle::StandIns::Desk::Memory.new(path, desk.settings)
    set("strip/2/label" => "Cornet", "card/send/4/from" => "main/l", "card/send/4/tap" => "post-fader")
    memory.save
    again = Loomshuttle::StandIns::Desk::Settings.new(desk.model)
    Loomshuttle::StandIns::Desk::Memory.new(path, again)
    expect([again.get("strip/2/label"), again.get("card/send/4/from")]).to eq(["Cornet", "main/l"])
  end
end

RSpec.describe Loomshuttle::StandIns::Stage::PlayersOnStage do
  it "gives each of the sixteen a sound of its own: one silent, one with hum" do
    stage = described_class.new((1..16).map { |n| "in/#{n}" })
    sound = stage.read(0, 480_000)
    levels = Loomshuttle::Audio::Level.rms(sound)
    expect(levels[14]).to eq(-144.0)
    expect(levels.each_index.reject { |i| i == 14 }.map { |i| levels[i] }).to all(be_between(-80, -30))
    expect(levels.map { |level| level.round(2) }.uniq.size).to eq(16)
    time = Numo::DFloat.new(48_000).seq / 48_000
    hum = ->(lane) { (sound[0...48_000, lane] * Numo::NMath.sin(time * 2 * Math::PI * 50)).mean.abs }
    expect(hum.call(15)).to be > 20 * hum.call(3)
  end

  it "lets a hand on stage stop players, ask for a sound, swap a cable, and plug one that is turned over" do
    stage = described_class.new((1..16).map { |n| "in/#{n}" })
    before = stage.read(0, 480_000)
    %w[quiet in/1 turn in/2 sound in/15 cable in/16].each_slice(2) { |word, socket| expect(stage.happen(word, socket)).to be(true) }
    after = stage.read(0, 480_000)
    expect(after[true, 0].abs.max).to eq(0)
    expect(after[true, 1]).to eq(-before[true, 1])
    expect(after[true, 14].abs.max).to be > 0.001
    buzz = ->(sound) { Loomshuttle::Audio::SpectralLines.amplitudes(sound[0...48_000, 15..15], [50], 48_000)[0, 0] }
    expect(buzz.call(after)).to be < 0.05 * buzz.call(before)
    expect(stage.happen("sound", "all")).to be(true)
    expect(stage.read(0, 480_000)[true, 0..3]).to eq(before[true, 0..3])
    expect(stage.happen("quiet", "in/17")).to be(false)
  end
end
