# frozen_string_literal: true

require "digest"

# Songs as files, as the porter leaves them.
module SongFolder
  module_function

  # @param root [String] folder of all songs
  # @param sounds [Hash{String=>Numo::NArray}] role => [frames] or [frames, 2], 24-bit integers
  # @return [String] id of the song
  def write(root, sounds, id: "00000000-0000-4000-8000-000000000001", rate: 48_000, **changes)
    folder = File.join(root, id)
    FileUtils.mkdir_p(folder)
    stems = sounds.each_with_index.map { |(role, sound), at| stem(folder, role, sound, at + 1, rate) }
    data = SongHelp.data(id: id, rate: rate, frames: stems.map { |one| one["frames"] }.max, sections: [], stems: stems, **changes)
    File.write(File.join(folder, "song.json"), JSON.generate(Loomshuttle::Songs::SongFile.check(data)))
    id
  end

  def stem(folder, role, sound, number, rate)
    lanes = sound.ndim == 2 ? sound.shape[1] : 1
    path = File.join(folder, "#{number}.wav")
    FileUtils.rm_f(path)
    bext = Loomshuttle::Formats::Bext.new(description: role, originator: "", reference: "", date: "2026-06-13", time: "20:00:00", time_reference: 0, history: "")
    file = Loomshuttle::Formats::Wav::Writer.new(path, bext: bext, lanes: lanes, rate: rate, bits: 32)
    file.write(Loomshuttle::Audio::Pcm24.to_float32(sound))
    file.close
    SongHelp.stem(number, role, lanes: lanes, frames: sound.shape[0], sum: Digest::SHA256.file(path).hexdigest)
  end

  # Noise that is the same each time.
  def noise(frames, seed = 1)
    random = Random.new(seed)
    Numo::Int32.from_binary(random.bytes(frames * 4)) / 512
  end

  # What a take has of a song: where it sounds, every sample is the song's, one behind the other.
  # @return [Array(Float, Integer)] share of it that sounds, and by how much a sample is off at most
  def held_against(take, track, sound)
    _, heard, meant = beside_each_other(take, track, sound)
    sounding = heard.ne(0).where
    [sounding.size.fdiv(heard.size), (heard[sounding] - meant[sounding]).abs.max]
  end

  # Which of a song's samples a take has.
  # @return [Array(Range, Numo::Bit)] the song's samples that the take covers, and which of the whole song sound in it
  def sounding(take, track, sound)
    place, heard, = beside_each_other(take, track, sound)
    covered = place...(place + heard.size)
    [covered, Numo::Bit.zeros(sound.size).tap { |whole| whole[covered] = heard.ne(0) }]
  end

  # @return [Array(Integer, Numo::Int32, Numo::Int32)] the song's sample at which the take begins to sound, what the take has from there, and what the song has
  def beside_each_other(take, track, sound)
    file = take["tracks"].find { |one| one["number"] == track }["file"]
    captured = Loomshuttle::Formats::Wav::Reader.new(File.join(take["folder"], file)).read[true, 0]
    start = captured.ne(0).where[0]
    place = (0...sound.size).find { |at| sound[at] == captured[start] && sound[at...(at + 50)] == captured[start...(start + 50)] }
    both = [captured.size - start, sound.size - place].min
    [place, captured[start...(start + both)], sound[place...(place + both)]]
  end
end
