# frozen_string_literal: true

# The songs of the computer and the running order over the API, with the porter in the same process.
RSpec.describe Loomshuttle::Web::SongLibrary, :folder do
  include_context "with the API"

  let(:songs) { File.join(@folder, "songs") }
  let(:first_show) { set(straight, "rig/interface" => "fern-12-twin", "cable/1/to" => "desk/in/15", "cable/2/to" => "desk/in/16") }

  def kept(**changes) = SongFolder.write(songs, { "Strings" => SongFolder.noise(96_000), "Choir" => SongFolder.noise(96_000, 2) }, **changes)

  it "lists songs, and one that cannot be read hides no other" do
    id = kept
    FileUtils.mkdir_p(File.join(songs, id.tr("1", "2")))
    File.write(File.join(songs, id.tr("1", "2"), "song.json"), "[]")
    list = ask("/api/songs")
    expect(list.map { |song| song["name"] }).to eq(["Tide", "A song that cannot be read"])
    expect(list.first).to include("seconds" => 2.0, "bpm" => "120", "meter" => "4/4", "roles" => %w[Strings Choir], "problem" => nil)
    expect(list.last["problem"]).to include("must be an object")
  end

  it "changes a song, keeps what it was, refuses a stale change, and turns it back" do
    id = kept
    song = ask("/api/songs/#{id}")
    sections = [{ "key" => 1, "name" => "Intro", "bar" => 1 }]
    changed = tell("/api/songs/#{id}/changes", { version: song["version"], changes: { sections: sections, tempos: [{ at: 0, bpm: 100 }] } })
    expect(changed["parts"].map { |part| part["name"] }).to eq(["Intro"])
    tell("/api/songs/#{id}/changes", { version: song["version"], changes: { name: "Other" } }, 409)
    back = tell("/api/songs/#{id}/undo", { version: changed["version"] })
    expect(back).to include("sections" => [], "tempos" => song["tempos"], "version" => 3)
    expect(tell("/api/songs/#{id}/undo", { version: 3 }, 422)["error"]["message"]).to include("Tide has no changes")
  end

  it "refuses what is not a song any more, and files that are none of it" do
    song = ask("/api/songs/#{kept}")
    { { sections: [{ key: 1, name: "A", bar: 1 }, { key: 2, name: "B", bar: 900 }] } => /behind the end/, { click: { sound: "bell" } } => /bell|enum|valid/,
      { stems: song["stems"].map { |stem| stem.merge("file" => "../../x.wav") } } => /look like|no file of this song/ }.each do |changes, words|
      post_json("/api/songs/#{song['id']}/changes", { version: 1, changes: changes })
      expect(last_response.status).to be_between(400, 422)
      expect(last_response.body).to match(words)
    end
    expect(ask("/api/songs/#{song['id']}")["version"]).to eq(1)
  end

  it "begins a section where somebody points: at the bar, where the sound goes through zero, or there" do
    sine = Loomshuttle::Audio::Pcm24.from_float(Numo::NMath.sin((Numo::DFloat.new(240_000).seq + 0.5) * (2 * Math::PI / 480)) * 0.2)
    id = SongFolder.write(songs, { "Strings" => sine, "Choir" => sine })
    place = ->(version, sample, snap, **more) { tell("/api/songs/#{id}/sections", { version: version, sample: sample, snap: snap, **more })["parts"].map { |part| part["from"] } }
    expect(place.call(1, 100_000, "bar")).to eq([0, 96_000])
    expect(place.call(2, 150_000, "sample")).to eq([0, 96_000, 150_000])
    expect(place.call(3, 200_050, "zero", section: 3)).to eq([0, 96_000, 200_160])
    tell("/api/songs/#{id}/sections", { version: 1, sample: 150_000, snap: "bar" }, 409)
    expect(tell("/api/songs/#{id}/sections", { version: 4, sample: 240_000, snap: "bar" }, 422)["error"]["message"]).to eq("The song ends before that.")
  end

  it "tells a song as it goes at another tempo, and makes its parts for it" do
    id = kept
    expect(ask("/api/songs/#{id}?tempo=80")).to include("frames" => 120_000, "tempos" => [include("bpm" => 96)])
    tell("/api/player/add-song", { song: id, version: show["version"] })
    tell("/api/edits", { version: show["version"], settings: { "setlist/1/tempo" => 80, "role/1/outputs" => [1], "role/2/outputs" => [2] } })
    expect(ask("/api/player")["items"]).to match([include("seconds" => 2.5, "made" => false, "problem" => "not rendered at 80 % yet")])
    job = tell("/api/songs/#{id}/vary", { tempo: 80, key: 0 })
    expect(job.values_at("kind", "name", "state")).to eq(["vary", "Tide, 80 %", "waiting"])
    Loomshuttle::Porter::Server.new(home: @folder).work(Loomshuttle::Porter::Job.open(File.join(@folder, "jobs")).first)
    Tools.wait_until(30, -> { ask("/api/player")["items"] }) { ask("/api/player")["items"].first.values_at("made", "problem") == [true, nil] }
    tell("/api/songs/#{id}/vary", { tempo: 100, key: 0 }, 422)
  end

  it "prints the running order: what comes when, how it goes tonight, what follows, and words for the crew" do
    tell("/api/player/add-song", { song: kept(crew: "haze off"), version: show["version"] })
    tell("/api/edits", { version: show["version"], settings: { "setlist/order" => [1, 2], "setlist/2/kind" => "pause", "setlist/2/title" => "Interval", "setlist/2/minutes" => 15,
                                                               "setlist/1/tempo" => 80, "setlist/1/key" => -2, "setlist/1/follows" => "pause", "setlist/1/pause_s" => 5 } })
    get("/api/papers/order.pdf")
    path = File.join(@folder, "order.pdf")
    File.binwrite(path, last_response.body)
    text = Tools.run("pdftotext", "-layout", path, "-").gsub(/ {2,}/, " | ")
    expect(text).to include("Test: running order", "haze off", "after 5 s", "80 %, down 2", "2 | 0:08 | Interval | 15:00").and include("1 | 0:00 | Tide | 0:03 | 96")
  end

  it "keeps accents by time signature for songs that are brought in afterwards" do
    tell("/api/songs/accents", { accents: { "7/8" => [1, 4, 6] } })
    tell("/api/songs/accents", { accents: { "3/4" => [1] } })
    expect(tell("/api/songs/accents", { accents: { "7/8" => [9] } }, 422)["error"]["message"]).to include("7/8")
    library = described_class.new(songs, on_change: -> {})
    made = File.join(@folder, "made", SongFolder.write(File.join(@folder, "made"), { "Strings" => SongFolder.noise(96_000) }, meters: [{ "bar" => 1, "meter" => "7/8" }]))
    library.take_over("result" => made)
    expect(library.all.first.song.click.accents).to eq("7/8" => [1, 4, 6])
  end

  it "draws a stem from its own sound" do
    columns = ask("/api/songs/#{kept}/waveform?stem=1&points=20&from=0&to=2000")["columns"]
    expect([columns.size, columns.min]).to match([20, be > 150])
  end

  it "says of a file that is damaged" do
    id = kept
    File.binwrite(File.join(songs, id, "2.wav"), File.binread(File.join(songs, id, "2.wav")).tap { |bytes| bytes.setbyte(5000, bytes.getbyte(5000) ^ 1) })
    Tools.wait_until(10, "the checksums") { ask("/api/songs").first["problem"] == "Choir is damaged" }
  end

  it "puts a song into the running order with its roles, says what has no output, and deletes no song that is in one" do
    id = kept
    made = tell("/api/player/add-song", { song: id, version: show["version"] })
    expect(made["said"]).to match(/3|4|5|6|7|settings/)
    player = ask("/api/player")
    expect(player["items"]).to match([include("title" => "Tide", "seconds" => 2.0, "problem" => "Strings, Choir have no output", "follows" => "hand")])
    expect(player["roles"].map { |role| [role["name"], role["kind"], role["outputs"]] }).to eq([["Strings", "parts", []], ["Choir", "parts", []], ["Click", "click", []]])
    delete("/api/songs/#{id}", "", "CONTENT_TYPE" => "application/json")
    expect(answer(422)["error"]["message"]).to eq("It is in the running order of Test. Remove it there first.")
  end

  it "keeps where roles go for the whole library, and says where a show differs" do
    tell("/api/player/add-song", { song: kept, version: show["version"] })
    tell("/api/edits", { version: show["version"], settings: { "role/1/outputs" => [1], "role/2/outputs" => [2] } })
    tell("/api/player/library-roles")
    tell("/api/edits", { version: show["version"], settings: { "role/2/outputs" => [1] } })
    expect(ask("/api/player")).to include("differs" => [{ "name" => "Choir", "library" => [2], "show" => [1] }])
    expect(control.songs.roles_of(control.songs.fetch(ask("/api/songs").first["id"]).song).first).to eq({ "name" => "Strings", "kind" => "parts", "outputs" => [1] })
  end

  it "brings a folder in: seen first, made by the porter, taken into the library" do
    folder = File.join(@folder, "deliveries", "11111111-1111-4111-8111-111111111111")
    FileUtils.mkdir_p(folder)
    { "Ropewalk 96bpm - Strings L" => 220, "Ropewalk 96bpm - Strings R" => 330, "Ropewalk 96bpm - Frame Loop" => 440 }.each do |name, hertz|
      Tools.run("sox", "-D", "-n", "-r", 44_100, "-b", "16", "-c", 1, File.join(folder, "#{name}.wav"), "synth", 2, "sine", hertz)
    end
    look = tell("/api/deliveries/look", { id: File.basename(folder) })["look"]
    seen = Tools.wait_until(20, "the look") { ask("/api/song-looks/#{look}").then { |one| one if one["state"] == "done" } }
    expect(seen["plan"]).to include("name" => "Ropewalk", "bpm" => 96.0)
    expect(seen["plan"]["stems"].map { |stem| [stem["role"], stem["lanes"], stem["known"]] }).to contain_exactly(["Strings", 2, false], ["Frame loop", 1, false])
    tell("/api/songs/bring-in", { look: look, name: "Ropewalk", stems: seen["plan"]["stems"].map { |stem| stem.slice("files", "role") } })
    Loomshuttle::Porter::Server.new(home: @folder).work(Loomshuttle::Porter::Job.open(File.join(@folder, "jobs")).first)
    Tools.wait_until(20, "the song") { ask("/api/songs").any? }
    song = ask("/api/songs/#{ask('/api/songs').first['id']}")
    expect(song).to include("name" => "Ropewalk", "rate" => 48_000, "tempos" => [{ "at" => 0, "bpm" => 96.0, "ramp" => false }])
    expect(Dir.exist?(folder)).to be(false)
  end

  it "says that the player is away, and goes on" do
    expect(tell("/api/player", { command: "play" }, 503)["error"]["message"]).to include("player does not answer")
    expect(ask("/api/player")["player"]).to be_nil
  end
end
