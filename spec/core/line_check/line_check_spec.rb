# frozen_string_literal: true

RSpec.describe Loomshuttle::LineCheck do
  let(:preamp) { Loomshuttle::Rig::Preamp.new(min_db: -6, max_db: 50, step_db: 1) }
  let(:source) do
    Loomshuttle::LineCheck::Source.new(number: 7, name: "Fiddle", dye: "woad", stage: point("desk/in/7"), socket: point("desk/in/7"), meter: "desk", at: [0], lanes: [6],
                                       gain: 20, preamp: preamp, phantom: false, mic: "dynamic")
  end

  def measure(*frames, times: frames.empty? ? 0 : 40)
    Loomshuttle::LineCheck::Measure.new.tap do |one|
      times.times { |at| one.add(at, *frames[at % frames.size]) }
    end
  end

  def verdict(heard, hum: Loomshuttle::LineCheck::Hum.new, alignment: -18, **source_as)
    Loomshuttle::LineCheck::Judge.on(source.with(**source_as), heard, hum, alignment)
  end

  describe Loomshuttle::Settings do
    # EBU R 68-2000: alignment level is 18 dB below full scale. SMPTE RP 155-2004: 20 dB below. Both from memory.
    it "knows the two published alignment levels" do
      expect(described_class::ALIGNMENT_LEVELS).to eq(-18 => "EBU R 68", -20 => "SMPTE RP 155")
    end
  end

  describe Loomshuttle::LineCheck::Measure do
    it "tells the loud part, not the pauses between" do
      expect(measure([-10.0, -20.0], [-50.0, -60.0]).loud).to be_within(0.01).of(-20)
      expect(measure([-10.0, -20.0], [-12.0, -23.0]).loud).to be_within(0.01).of(10 * Math.log10(((10**-2) + (10**-2.3)) / 2))
    end

    it "keeps what it heard while the player rests, and knows the room" do
      heard = measure([-10.0, -20.0], times: 60)
      300.times { |at| heard.add(60 + at, -72.0, -80.0) }
      expect(heard).to have_attributes(loud: be_within(0.01).of(-20), now: -72.0, noise_floor: -80.0, sounded_at: 59, heard?: true)
    end

    it "has not heard enough in less than a second" do
      expect([measure([-10.0, -20.0], times: 19).heard?, measure([-10.0, -20.0], times: 20).heard?]).to eq([false, true])
    end

    it "counts frames at full scale of the last ten seconds that sounded" do
      heard = measure([0.0, -6.0], times: 3)
      expect(heard.clips).to eq(3)
      200.times { |at| heard.add(3 + at, -9.0, -20.0) }
      expect(heard.clips).to eq(0)
    end

    it "sees a level rise out of quiet, and not a tune that goes on" do
      heard = measure([-62.0, -70.0], times: 40)
      expect(heard.rose?).to be(false)
      heard.add(41, -20.0, -30.0)
      expect([heard.rose?, heard.rise.round(1)]).to eq([true, 40.0])
      expect(measure([-20.0, -30.0], [-14.0, -24.0]).rose?).to be(false)
    end
  end

  describe Loomshuttle::LineCheck::Advice do
    def advice(heard, gain: 20, preamp: self.preamp, alignment: -18) = described_class.for(heard, alignment: alignment, gain: gain, preamp: preamp)

    # The loud part of a sine 30 dB below full scale is 12 dB below an alignment level of -18 dBFS, 10 dB below one of -20.
    it "brings the loud part to the alignment level" do
      expect(advice(measure([-30.0, -30.0]))).to have_attributes(change: 12, to: 32, missing: 0)
      expect(advice(measure([-30.0, -30.0]), alignment: -20)).to have_attributes(change: 10, to: 30)
    end

    it "leaves the peaks their room, and goes down to the step below" do
      expect(advice(measure([-9.5, -30.0]))).to have_attributes(change: 3, to: 23)
    end

    it "turns down well what has clipped" do
      expect(advice(measure([0.0, -17.0]))).to have_attributes(change: -10, to: 10)
    end

    it "stays within the preamp's steps and range, and says what the source has to do" do
      coarse = Loomshuttle::Rig::Preamp.new(min_db: 0, max_db: 30, step_db: 5)
      expect(advice(measure([-40.0, -50.0]), gain: 20, preamp: coarse)).to have_attributes(change: 10, to: 30, missing: 22.0)
      expect(advice(measure([-20.0, -25.0]), gain: 20, preamp: coarse)).to have_attributes(change: 5, to: 25, missing: 0)
      expect(advice(measure([-1.0, -2.0]), gain: 0, preamp: coarse)).to have_attributes(change: 0, to: 0, missing: -16.0)
    end

    it "has nothing to turn where there is no preamp" do
      expect(advice(measure([-40.0, -50.0]), gain: nil, preamp: nil)).to have_attributes(change: 0, to: nil, missing: 32.0)
    end
  end

  describe Loomshuttle::LineCheck::Judge do
    it "finds a word for what was heard, why, and what to do" do
      expect(verdict(measure([-8.0, -18.5]))).to have_attributes(word: "good", reason: "loud passages at −18.5 dBFS, peaks at −8", advice: nil, settings: {})
      expect(verdict(measure([-20.0, -30.0]))).to have_attributes(word: "low", reason: "loud passages at −30 dBFS, 12 dB under",
                                                                  advice: "Raise the preamp by 12 dB", settings: { "channel/7/gain" => 32 })
      expect(verdict(measure([-5.0, -10.0]))).to have_attributes(word: "hot", reason: /8 dB over/, settings: { "channel/7/gain" => 12 })
      expect(verdict(measure([-1.5, -30.0]))).to have_attributes(word: "hot", reason: "peaks at −1.5 dBFS, and −6 leaves room for the show", settings: { "channel/7/gain" => 15 })
      expect(verdict(measure([0.0, -12.0]))).to have_attributes(word: "clipped", settings: { "channel/7/gain" => 10 },
                                                                advice: "Lower the preamp by at least 10 dB")
      expect(verdict(measure([-90.0, -100.0]))).to have_attributes(word: "not heard yet", settings: {})
    end

    it "says what a hand on stage has to do" do
      expect(verdict(measure([-50.0, -60.0]), gain: 40).advice).to eq("Raise the preamp by 10 dB; preamp at maximum; make the source 32 dB louder")
      expect(verdict(measure([-20.0, -30.0]), gain: nil, preamp: nil).advice).to eq("no preamp: make it 12 dB louder at the source")
      expect(verdict(measure, mic: "condenser")).to have_attributes(advice: "Turn 48 V on", settings: { "channel/7/phantom" => true })
      expect(verdict(measure, mic: "condenser", phantom: true).settings).to eq({})
    end

    it "knows no level of what hears the take" do
      expect(verdict(measure, meter: nil, at: [])).to have_attributes(word: "not heard yet", reason: /on take/)
    end

    it "is good again once its own advice was followed, whatever the source" do
      random = Random.new(4)
      200.times do
        crest, at = random.rand(3.0..24.0), random.rand(-60.0..-1.0)
        first = verdict(measure([at, at - crest]))
        next if first.settings.empty? || first.advice.include?("make the source") || first.word == "clipped"

        change = first.settings.fetch("channel/7/gain") - 20
        expect(verdict(measure([at + change, at - crest + change])).word).to eq("good"), [at, crest, first.to_h].inspect
      end
    end
  end
end
