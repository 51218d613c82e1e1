# frozen_string_literal: true

# What the recorder holds is bounded whatever arrives, and what arrives from others costs the take nothing.
RSpec.describe "Bounds of the recorder", :folder do
  include_context "with a virtual capture"

  # @return [Integer] bytes that the engine holds of packets and what it makes of them
  def held
    engine = recorder.engine
    waiting = engine.intakes.sum { |intake| intake.instance_variable_get(:@waiting).each_value.sum(&:bytesize) }
    far = engine.instance_variable_get(:@far).flatten.sum { |packet| packet.payload.bytesize }
    trying = engine.instance_variable_get(:@senders).sum { |sender| sender.instance_variable_get(:@candidates).flat_map(&:packets).sum { |packet| packet.payload.bytesize } }
    waiting + far + trying
  end

  def packet(**change)
    Loomshuttle::Formats::Rtp.pack(sequence: 0, timestamp: 0, source: 1, payload: "\1" * (48 * 24), **change)
  end

  describe "strangers" do
    let(:random) { Random.new(12) }

    def garbage
      case random.rand(4)
      when 0 then random.bytes(random.rand(0..1500))
      when 1 then packet(source: random.rand(1 << 32), timestamp: random.rand(1 << 32), sequence: random.rand(65_536))
      when 2 then packet(source: 77, timestamp: random.rand(1 << 32), sequence: random.rand(65_536)) # the desk's own number, forged
      else packet(source: 5, timestamp: random.rand(1000) * 48, sequence: random.rand(1000), payload: "\2" * (24 * random.rand(1..60)))
      end
    end

    it "cost the take no sample and the recorder no memory, are counted, and shown" do
      rig.run(0.2)
      heard = []
      rig.disturb = lambda do |stream, bytes|
        heard << Loomshuttle::Formats::Rtp.unpack(bytes).payload if stream.zero?
        [garbage, bytes, garbage]
      end
      recorder.capture_start
      rig.run(3)
      done = recorder.capture_stop
      expect(done).to include("gaps" => [], "breaks" => [], "state" => "complete", "note" => nil)
      expect(samples(2)).to eq(Loomshuttle::Audio::Pcm24.from_network(heard.join, 8)[0...done["frames"], 1])
      expect(recorder.status["counts"]["foreign"]).to be > 5000
      expect(held).to be < 2 << 20
    end

    it "take no stream that nobody has yet" do
      4000.times { recorder.engine.receive(random.rand(2), garbage) }
      expect([recorder.engine.position, held < 1 << 20]).to eq([0, true])
      rig.run(1)
      expect(recorder.engine.position).to be >= 43_200
    end
  end

  describe "the clock" do
    before { rig.run(0.2) }

    # Two forged packets of the desk's own number, an hour ahead, cost 330 MB once.
    it "does not follow single packets from another time" do
      position = recorder.engine.position
      2.times { |n| recorder.engine.receive(0, packet(source: 77, sequence: 9, timestamp: rig.desk.time + (3600 * 48_000) + (n * 7_000_000))) }
      rig.run(0.1)
      expect([recorder.engine.position - position, recorder.engine.timeline.restarts]).to eq([4800, 0])
    end

    it "makes a length of a gap of minutes, and no silence in memory or on the disk" do
      batches = []
      recorder.spool = ->(batch) { (batches << batch) && recorder.handle(batch) }
      recorder.capture_start
      rig.run(1)
      skip = 300 * 48_000
      rig.disturb = lambda do |_, bytes|
        got = Loomshuttle::Formats::Rtp.unpack(bytes)
        [Loomshuttle::Formats::Rtp.pack(sequence: got.sequence, timestamp: got.timestamp + skip, source: got.source, payload: got.payload)]
      end
      rig.run(1)
      done = recorder.capture_stop
      expect(done["frames"]).to be_within(4800).of(302 * 48_000)
      expect(done["gaps"]).to eq([[1, 8], [9, 16], [17, 20]].map { |lanes| { "at" => 48_000, "frames" => skip, "lanes" => lanes } })
      expect(done["gaps_total"]).to eq("count" => 3, "frames" => 3 * skip, "unlisted" => 0)
      expect(batches.sum(&:bytes)).to be < 3 * 48_000 * 60
      expect(samples(1).size).to eq(done["frames"])
      expect(File.stat(path(1)).blocks * 512).to be < 3 * 48_000 * 3
      expect(File.size(File.join(takes.last.first, "overview.u8"))).to eq(4 * (done["frames"] / 2400.0).ceil)
    end

    it "starts again where a sender's time goes back, once others follow" do
      recorder.capture_start
      rig.run(1)
      rig.disturb = lambda do |_, bytes|
        got = Loomshuttle::Formats::Rtp.unpack(bytes)
        [Loomshuttle::Formats::Rtp.pack(sequence: got.sequence, timestamp: got.timestamp - 40_000, source: got.source, payload: got.payload)]
      end
      rig.run(1)
      expect(recorder.capture_stop).to include("state" => "complete", "frames" => be_within(4800).of(96_000))
    end
  end

  describe "a desk that stops sending" do
    before { rig.run(0.2) }

    it "is told by the time on the wall where its counter waited, and the take goes on" do
      recorder.capture_start
      rig.run(1)
      rig.pause(30)
      expect(recorder.status["clock"]).to be(false)
      rig.run(1)
      expect(recorder.status["capture"]["warning"]).to eq("Gap of 30.0 s at 1.0 s: the desk sent no audio.")
      done = recorder.capture_stop
      expect(done).to include("breaks" => [{ "at" => 48_000, "seconds" => 30.0, "kind" => "paused" }], "gaps" => [], "state" => "complete", "note" => /Gap of 30.0 s/)
      expect(samples(1).size).to eq(done["frames"])
    end

    it "is not a pause while this process was held up itself" do
      recorder.capture_start
      rig.run(1)
      rig.pause(30, looking: false)
      rig.run(1)
      expect(recorder.capture_stop).to include("breaks" => [], "note" => nil)
    end

    it "is a gap of its length, and no pause, where its counter went on" do
      recorder.capture_start
      rig.run(1)
      rig.disturb = ->(_, _) { [] }
      rig.run(20)
      rig.disturb = nil
      rig.run(1)
      done = recorder.capture_stop
      expect(done).to include("breaks" => [])
      expect(done["gaps"].first).to include("at" => 48_000, "frames" => 20 * 48_000)
    end
  end

  describe Loomshuttle::Recorder::GapLog do
    it "stays short however bad the network, with totals that are exact" do
      log = described_class.new
      100_000.times { |n| [[1, 8], [9, 16]].each { |lanes| log.add(n * 100, 48, lanes) } }
      expect([log.list.size, log.total]).to eq([400, { "count" => 200_000, "frames" => 200_000 * 48, "unlisted" => 199_600 }])
      log.add((99_999 * 100) + 48, 10, [1, 8])
      expect(log.total).to include("count" => 200_000, "frames" => (200_000 * 48) + 10)
    end
  end

  describe Loomshuttle::Recorder::Spool do
    def batch(number) = Loomshuttle::Recorder::Batch.new(number * 2400, 2400, [[0, 8, "\1" * 57_600]], [])

    it "lets go what a slow disk has no time for, as one length that the take tells of" do
      spool = described_class.new(most: 3 * 57_600)
      5.times { |n| spool << batch(n) }
      spool.close
      out = Array.new(4) { spool.pop }
      expect(out.compact.map { |one| [one.position, one.frames, one.behind] }).to eq([[0, 2400, 0], [2400, 2400, 0], [4800, 2400, 0], [7200, 4800, 4800]])
      expect([out.compact.last.gaps, spool.dropped]).to eq([[[0, 8, 7200, 4800]], 4800])
    end

    it "makes a take say so" do
      rig.run(0.2)
      recorder.capture_start
      recorder.spool = ->(one) { recorder.handle(one.position.between?(24_000, 47_999) ? one.dropped : one) }
      rig.run(1.5)
      done = recorder.capture_stop
      expect(done["note"]).to eq("Disk too slow: 0.5 s could not be written and are silent.")
      expect(done["gaps"].sum { |gap| gap["frames"] }).to eq(3 * 24_000)
    end
  end

  # The design's figure for what is written twice a second.
  it "keeps a manifest short with markers by the thousand and gaps without end" do
    rig.run(0.2)
    recorder.capture_start
    rig.run(0.1)
    recorder.change_take(take: 1, markers: Array.new(5000) { |n| { "at" => 0, "name" => "Marker #{n}" } })
    random = Random.new(3)
    rig.disturb = ->(_, bytes) { random.rand < 0.3 ? [] : [bytes] }
    rig.run(3)
    expect(recorder.status["capture"]).to include("marker_count" => 5000)
    expect(recorder.status["capture"]["markers"].size).to eq(100)
    expect(manifest["gaps"].size).to eq(400)
    expect(recorder.capture_stop["gaps_total"]["frames"]).to eq(recorder.engine.counts[:lost_frames])
    expect(File.size(File.join(takes.last.first, "take.json"))).to be < 1 << 20
  end

  it "refuses loops that would cost more than their sound" do
    rig.run(0.2)
    recorder.capture_start(frames: 48_000)
    rig.run(1.2)
    expect { recorder.play(take: 1, from: 100, to: 108, loop: true) }.to raise_error(Loomshuttle::Invalid, /0.1 s at least/)
    expect(recorder.play(take: 1, from: 0, to: 4800, loop: true)).to include("loop" => true)
  end

  # Numbers of tracks say nothing between two shows.
  it "plays a take of another show by the names of its tracks, and only when somebody confirms it" do
    rig.run(0.2)
    recorder.configure(tracks: recorder.status["tracks"].map { |track| track.to_h.transform_keys(&:to_s) }, project: "Quay")
    recorder.capture_start(frames: 48_000)
    rig.run(1.2)
    names = Loomshuttle::Recorder::Manifest.all(recorder.takes).first.last["tracks"].map { |track| track["name"] }
    swapped = [[1, names[1], 3], [2, " #{names[0].upcase} ", 5], [3, "Nobody", 7]].map do |n, name, out|
      { "number" => n, "name" => name, "inputs" => [n], "outputs" => [out], "armed" => true }
    end
    recorder.configure(tracks: swapped, project: "Harbour")
    expect { recorder.play(take: 1) }.to raise_error(Loomshuttle::Invalid, /Take 1 is of the show "Quay"; its tracks can be played by their names only/)
    opened = []
    allow(Loomshuttle::Recorder::TakeReader).to(receive(:new).and_wrap_original { |original, *given, **more| (opened << more[:outputs]) && original.call(*given, **more) })
    recorder.play(take: 1, by_name: true)
    expect(opened).to eq([{ 1 => [5], 2 => [3] }])
    recorder.configure(tracks: swapped.last(1), project: "Harbour")
    expect { recorder.play(take: 1, by_name: true) }.to raise_error(Loomshuttle::Invalid, /none of its tracks has the name of one here/)
    recorder.configure(tracks: swapped, project: "Quay")
    recorder.play(take: 1)
    expect(opened.last.values).to eq([[3], [5], [7]])
  end

  describe "requests" do
    before do
      rig.run(0.3)
      recorder.capture_start(frames: 48_000)
      rig.run(1.2)
      recorder.wait = -> { rig.run(0.05) }
    end

    it "beyond the card are refused, and nothing ends" do
      expect { recorder.measure_trip(output: 99, input: 1) }.to raise_error(Loomshuttle::Invalid, /returns 1 to 20, not 99/)
      expect { recorder.measure_trip(output: 1, input: 21) }.to raise_error(Loomshuttle::Invalid, /sends 1 to 20, not 21/)
      recorder.configure(tracks: [{ "number" => 1, "name" => "Far", "inputs" => [400], "outputs" => [400], "armed" => true }])
      expect { recorder.overdub(take: 1, tracks: [1]) }.to raise_error(Loomshuttle::Invalid, /at least one track/)
      expect { recorder.play(take: 1) }.to raise_error(Loomshuttle::Invalid, /No track of this take has an output/)
      rig.run(0.2)
      expect(recorder.status["clock"]).to be(true)
    end

    it "for a second measurement during one are refused, and the first goes on" do
      second = nil
      recorder.wait = lambda do
        second ||= begin
          recorder.measure_trip(output: 1, input: 1)
        rescue Loomshuttle::Invalid => e
          e.message
        end
        rig.run(0.05)
      end
      expect { recorder.measure_trip(output: 1, input: 2) }.to raise_error(Loomshuttle::Invalid, /did not arrive/)
      expect(second).to eq("A measurement is under way already.")
    end

    it "for an overdub that is refused play nothing" do
      recorder.capture_start
      expect { recorder.overdub(take: 1, tracks: [2]) }.to raise_error(Loomshuttle::Invalid, /being captured already/)
      recorder.capture_stop
      recorder.tell_free(takes: 0)
      expect { recorder.overdub(take: 1, tracks: [2]) }.to raise_error(Loomshuttle::Invalid, /disk is full/)
      expect(recorder.status["take_playback"]).to be_nil
    end

    it "have a shape for every parameter" do
      server = Loomshuttle::Recorder::ControlServer.new(File.join(@folder, "socket"), recorder)
      methods = server.__send__(:methods_for, nil)
      expect(methods.transform_values { |method| method.parameters.map(&:last) }).to eq(Loomshuttle::Recorder::Requests::ALL.slice(*methods.keys).transform_values(&:keys))
    ensure
      server&.close
    end
  end
end
