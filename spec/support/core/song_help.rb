# frozen_string_literal: true

# Songs to test on, built here.
module SongHelp
  module_function

  # Sixteen bars at 120 quarter notes per minute and 48 kHz: a bar lasts 96,000 samples.
  def data(**changes)
    { "format" => "loomshuttle-song/1", "id" => "00000000-0000-4000-8000-000000000001", "version" => 1, "rate" => 48_000, "frames" => 16 * 96_000, "name" => "Tide",
      "sections" => [section(1, "Intro", 1), section(2, "Verse", 3), section(3, "Chorus", 7), section(4, "Out", 13)],
      "click" => { "count_in" => 0 } }.merge(changes.transform_keys(&:to_s))
  end

  def section(key, name, bar, **more) = { "key" => key, "name" => name, "bar" => bar }.merge(more.transform_keys(&:to_s))

  def stem(id, role, lanes: 1, frames: 16 * 96_000, **more)
    { "id" => id, "name" => role, "role" => role, "file" => "#{id}.wav", "lanes" => lanes, "frames" => frames, "sum" => "0" * 64 }.merge(more.transform_keys(&:to_s))
  end

  def song(**changes) = Loomshuttle::Songs::SongFile.song(Loomshuttle::Songs::SongFile.check(data(**changes)))
end

RSpec.configure { |config| config.include(SongHelp) }
