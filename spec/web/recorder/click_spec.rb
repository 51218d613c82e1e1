# frozen_string_literal: true

# A click by the API: as WAV read by sox, as MIDI read by midicsv.
RSpec.describe "A click", :folder do
  include_context "with the API"

  def saved(query, name)
    get("/api/click?#{query}")
    expect(last_response.status).to eq(200), last_response.body
    File.join(@folder, name).tap { |path| File.binwrite(path, last_response.body) }
  end

  def flow(bars:, meter: "7/8", bpm: 96, **options)
    map = Loomshuttle::Timing::TempoMap.plain(bpm, meter, rate: 48_000)
    Loomshuttle::Web::ClickFlow.new(map, Loomshuttle::Timing::Click.new(map, **options), bars: bars, sound: "wood")
  end

  it "has its strokes on the sample, as loud as they should be, and is as long as its bars" do
    bytes = bytes_of(flow(bars: 8, subdivision: "eighths", accents: { "7/8" => [1, 4, 6] }))
    path = File.join(@folder, "click.wav").tap { |file| File.binwrite(file, bytes) }
    expect(Tools.run("soxi", "-s", path).to_i).to eq(8 * 7 * 15_000)
    samples = Loomshuttle::Formats::Wav::Reader.new(path).read(0, 8 * 7 * 15_000)[true, 0]
    # Each begins where nothing has sounded for a while.
    loud = samples.abs.gt(2000).where.to_a
    begun = loud.each_cons(2).select { |one, other| other - one > 5000 }.map(&:last).unshift(loud.first)
    expect(begun.map { |at| at / 15_000 }).to eq((0...56).to_a)
    expect(begun.map { |at| at % 15_000 }).to all(be < 24)
    peaks = (0...7).map { |beat| samples[(beat * 15_000)...((beat + 1) * 15_000)].abs.max / 8_388_608.0 }
    expect(peaks.map { |peak| peak.round(2) }).to eq([0.9, 0.63, 0.63, 0.9, 0.63, 0.9, 0.63])
  end

  it "is the same from any byte on, in the memory of a moment, however long it is" do
    whole = bytes_of(flow(bars: 4))
    [[0, 10], [40, 100], [44, 45], [100_001, 250_000], [whole.bytesize - 5, whole.bytesize]].each do |from, upto|
      expect(bytes_of(flow(bars: 4).part(from, upto))).to eq(whole.byteslice(from...upto))
    end
    long = flow(bars: 20_000)
    late = long.size - 200_000
    expect(bytes_of(long.part(late, long.size)).bytesize).to eq(200_000)
  end

  it "is a Standard MIDI File for midicsv, on request" do
    rows = Tools.run("midicsv", saved("bpm=97.5&meter=3/4&bars=2&subdivision=beats&form=mid", "click.mid")).lines.map { |line| line.strip.split(", ") }
    expect(rows.select { |row| row[2] == "Note_on_c" }.map { |row| row.values_at(1, 3, 4, 5) })
      .to eq((0..5).map { |beat| [(beat * 960).to_s, "9", (beat % 3).zero? ? "76" : "77", (beat % 3).zero? ? "120" : "96"] })
    expect(rows).to include(%w[1 0 Tempo 615385], %w[1 0 Time_signature 3 2 24 8])
  end

  { "bpm=10&meter=4/4&bars=1" => "from 20 to 400", "bpm=100&meter=4/5&bars=1" => "reads like 7/8", "bpm=100&meter=4/4&bars=1&accents=9" => "beats from 1 to 4",
    "bpm=100&meter=4/4&bars=1&accents=x" => "Accents are beats" }.each do |query, words|
    it "refuses #{query}" do
      get("/api/click?#{query}")
      expect(answer(422)["error"]["message"]).to include(words)
    end
  end
end
