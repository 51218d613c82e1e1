# frozen_string_literal: true

# The job by which a song is written as files, with the process that does it.
RSpec.describe Loomshuttle::Porter::RenderSong, :folder do
  let(:jobs) { Loomshuttle::Web::Jobs.new(@folder) }
  let(:strings) { SongFolder.noise(48_000) }

  def done(roles, **asked)
    id = SongFolder.write(File.join(@folder, "songs"), { "Strings" => strings }, click: { "on" => false })
    usual = { "roles" => roles, "pilot" => { "hz" => 19_000, "level_db" => -30, "mute" => true }, "item" => { "key" => 1, "song" => id }, "fps" => 30, "hour" => 2 }
    job = jobs.render(File.join(@folder, "songs", id), "Tide", usual.merge(asked.transform_keys(&:to_s)))
    Loomshuttle::Porter::Server.new(home: @folder).work(Loomshuttle::Porter::Job.open(File.join(@folder, "jobs")).first)
    jobs.find(job["id"])
  end

  it "writes a file an output, with timecode of its frames and its hour" do
    job = done([{ "name" => "Strings", "kind" => "parts", "outputs" => [2] }, { "name" => "LTC", "kind" => "timecode", "outputs" => [5] }])
    expect(job).to include("state" => "done")
    sounds = Dir[File.join(job["result"], "*.wav")].to_h { |path| [File.basename(path), Loomshuttle::Formats::Wav::Reader.new(path).read[true, 0]] }
    expect(sounds.keys).to contain_exactly("output 02 Strings.wav", "output 05 LTC.wav")
    expect(sounds["output 02 Strings.wav"]).to eq(strings)
    code = Loomshuttle::Audio::Pcm24.from_float(Numo::DFloat.cast(Loomshuttle::Audio::Ltc.new(48_000, 30).read(0, 48_000, 2 * 3600 * 30)))
    expect(sounds["output 05 LTC.wav"]).to eq(code)
  end

  it "says what is wrong in the words of the process that does it" do
    expect(done([])).to include("state" => "failed", "error" => "No part of Tide has an output.")
  end
end
