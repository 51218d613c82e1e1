# frozen_string_literal: true

RSpec.describe Loomshuttle::Delivery do
  let(:show) do
    names = ["Tuba", "Cornet 1", "Cornet 2", "Fiddle", "Accordion", "Bass DI", "Bass mic", "Voice Ada", "Voice Bram", "Bass drum", "Side drum", "Hurdy-gurdy", "Cymbals L",
             "Cymbals R"]
    base = straight(names.size, from: blank("hazel-56"))
    set(base, names.each.with_index(1).flat_map do |name, n|
      [["channel/#{n}/name", name], ["track/#{n}/name", ""]]
    end.to_h.merge("channel/5/short" => "Acc", "channel/8/short" => "Ada"))
  end
  let(:targets) { Loomshuttle::Delivery::Matching.targets(show) }

  def sound(file, **more)
    Loomshuttle::Delivery::Sound.new(path: "/d/#{file}", name: Loomshuttle::Delivery::Name.parse(file), rate: 48_000, lanes: 1, frames: 480_000, codec: "pcm_s24le",
                                     time_reference: nil, called: [], **more)
  end

  def plan(*files) = Loomshuttle::Delivery::Plan.of(files.map { |file| file.is_a?(String) ? sound(file) : file }, show)

  describe Loomshuttle::Delivery::Name do
    {
      "07 Tuba.wav" => { words: %w[tuba], number: 7, part: nil }, "Crn1_take.aif" => { words: %w[cornet 1], number: nil }, "VOX-Ada (final).flac" => { words: %w[voice ada] },
      "Cymbals.L.wav" => { words: %w[cymbals], side: :left },
      "Tuba part 2.wav" => { words: %w[tuba], part: 2, sure: :words }, "Tuba_pt2.wav" => { words: %w[tuba], part: 2, sure: :words },
      "Tuba-0003.wav" => { part: 3, sure: :words, stem: "tuba" }, "Cornet 2.wav" => { part: 2, sure: nil }, "HurdyGurdy.wav" => { words: %w[hurdy gurdy] },
      "Flügel.wav" => { words: %w[flugel] }
    }.each { |file, fields| it("takes #{file.inspect} apart") { expect(described_class.parse(file)).to have_attributes(fields) } }
  end

  describe Loomshuttle::Delivery::Matching do
    def track_of(file)
      one = recording(file)
      described_class.pairs([one], targets)[one].target&.number
    end

    def recording(file) = Loomshuttle::Delivery::Recording.of([sound(file)])

    # As files really come.
    {
      "Tuba.wav" => 1, "01_TUBA.WAV" => 1, "tuba (mic) final.wav" => 1, "Crn1.wav" => 2, "cornet-2.wav" => 3, "CORNET2_Audio.wav" => 3, "fidle.wav" => 4,
      "Fiddel.wav" => 4, "Violin.wav" => 4, "Acc.wav" => 5,
      "Accordian.wav" => 5, "bass_di.wav" => 6, "Bass Mic 01.wav" => 7, "Vox Ada.wav" => 8, "ada.wav" => 8, "VocBram.wav" => 9, "Kick.wav" => 10, "BD.wav" => 10, "snare.wav" => 11,
      "hurdy gurdy.wav" => 12, "Cym L.wav" => 13, "cymbals_right.wav" => 14, "04.wav" => 4, "Triangle.wav" => nil, "Cornet 3.wav" => nil
    }.each { |file, track| it("finds track #{track.inspect} for #{file}") { expect(track_of(file)).to eq(track) } }

    it "gives each track once, to who fits best" do
      recordings = ["Bass.wav", "Bass DI.wav", "Bass mic.wav"].map { |file| recording(file) }
      expect(described_class.pairs(recordings, targets).values.map { |found| found.target&.number }.last(2)).to eq([6, 7])
    end
  end

  describe Loomshuttle::Delivery::Plan do
    it "puts split recordings together by their numbering, and leaves Cornet 1 and 2 apart" do
      items = plan("Tuba-0002.wav", "Tuba-0001.wav", "Cornet 1.wav", "Cornet 2.wav", "Fiddle 2.wav", "Fiddle 1.wav")
      expect(items.map { |item| [item.sounds.map { |one| File.basename(one.path) }, item.target] }).to eq(
        [[["Cornet 1.wav"], 2], [["Cornet 2.wav"], 3], [["Fiddle 1.wav", "Fiddle 2.wav"], 4], [["Tuba-0001.wav", "Tuba-0002.wav"], 1]]
      )
      expect(items.last).to have_attributes(frames: 960_000, notes: ["2 parts are joined"])
    end

    it "is as sure of a recording in parts as of a whole one" do
      items = plan("Tuba-01.wav", "Tuba-02.wav", "Sd drum-01.wav", "Sd drum-02.wav")
      expect(items.map { |item| [item.target, item.notes] }).to eq([[11, ["2 parts are joined"]], [1, ["2 parts are joined"]]])
    end

    it "aligns all to one start by their own times, where all have one" do
      items = plan(sound("Tuba.wav", time_reference: 48_000 * 3600), sound("Fiddle.wav", time_reference: 44_100 * 3602, rate: 44_100, frames: 441_000))
      expect(items.map { |item| [item.target, item.offset, item.frames] }).to eq([[4, 96_000, 480_000], [1, 0, 480_000]])
      expect(items[0].notes).to include("44.1 kHz becomes 48.0 kHz")
      expect(items[1].notes).to eq(["ends 2.0 s before the longest; silence follows"])
      expect(plan(sound("Tuba.wav", time_reference: 5000), "Fiddle.wav").map(&:offset)).to eq([0, 0])
    end

    it "places those that tell their time where some do not, and says which start with the first" do
      items = plan(sound("Tuba.wav", time_reference: 48_000 * 3600), sound("Fiddle.wav", time_reference: 48_000 * 3602), "Accordion.wav")
      expect(items.to_h { |item| [item.title, [item.offset, item.notes.grep(/time/)]] }).to eq(
        "Accordion" => [0, ["no time in the file: starts with the first"]], "Fiddle" => [96_000, []], "Tuba" => [0, []]
      )
      expect(plan("Tuba.wav", "Fiddle.wav").flat_map(&:notes).grep(/time/)).to eq([])
      far = plan(sound("Tuba.wav", time_reference: 0), sound("Fiddle.wav", time_reference: 48_000 * 90_000), "Accordion.wav")
      expect(far.map { |item| [item.offset, item.notes.grep(/time/)] }.uniq).to eq([[0, ["the times in the files are too far apart; all start together"]]])
    end

    it "calls a recording by what is its own: without the words of all, and without the number of a part" do
      items = plan("0613_Quay_Tuba.wav", "0613_Quay_TheRemin.wav", "0613_Quay_Été flute.wav", "0613_Quay_Saw part 1.wav", "0613_Quay_Saw part 2.wav")
      expect(items.map { |item| [item.title, item.sounds.size] }).to eq([["Saw", 2], ["TheRemin", 1], ["Tuba", 1], ["Été flute", 1]])
      expect(Loomshuttle::Delivery::Name.of("Cornet 2 (1)", front: 0, back: 1).text).to eq("Cornet")
    end

    {
      "Clip 2" => "Clip", "Tuba-0002" => "Tuba", "TubaPt2" => "Tuba", "Tuba_pt02" => "Tuba", "Tuba part 2 of 3" => "Tuba", "Tuba (2 of 3)" => "Tuba", "Saw 12" => "Saw",
      "A1-01" => "A1", "日本 02" => "日本"
    }.each do |text, whole|
      it("calls all parts of #{text.inspect} #{whole.inspect}") { expect(Loomshuttle::Delivery::Name.of(text).whole).to have_attributes(text: whole, part: nil) }
    end

    it "calls a recording by what is its own after it was arranged by hand, too" do
      source = ->(file, lane = nil, **more) { Loomshuttle::Delivery::Source.new(sound: sound(file, **more), lane: lane) }
      arranged = [[[source["Saw-01.wav"]], [source["Saw-02.wav"]]], [[source["Saw-01.wav", 1, lanes: 2]], [source["Saw-02.wav", 1, lanes: 2]]], [[source["Saw-01.wav"]]]]
      items = described_class.new(show).arranged(arranged.map { |pieces| [Loomshuttle::Delivery::Recording.arranged(pieces), nil, 0] })
      expect(items.map(&:title)).to eq(["Saw", "Saw R", "Saw-01"])
    end

    it "tells of silence where it is unusual, not of everything that one alone outlasts" do
      items = plan("Tuba.wav", "Fiddle.wav", "Cornet 1.wav", sound("Accordion.wav", frames: 96_000 * 10), sound("Bass mic.wav", frames: 48_000))
      expect(items.to_h { |item| [item.title, item.notes.grep(/silence/)] }.compact).to eq(
        "Accordion" => [], "Bass mic" => ["ends 19.0 s before the longest; silence follows"], "Cornet 1" => [], "Fiddle" => [], "Tuba" => []
      )
      expect(items.flat_map(&:warnings)).to include("Accordion ends 10.0 s after most of the others.")
    end

    it "says what it could not place, and what is a guess" do
      items = plan("Triangle.wav", "Bass.wav", sound("Accordion.wav", lanes: 6))
      expect(items.map { |item| [item.target, item.notes.join("; ")] }).to eq(
        [[5, "the first two of 6 channels are used"], [items[1].target, "guessed: please check"], [nil, "no track has this name"]]
      )
    end
  end
end
