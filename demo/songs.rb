# frozen_string_literal: true

require "digest"
require "fileutils"
require "json"
require "numo/narray"

# Five songs of the Saltmarsh Nine, made by synthesis the first time that the demo starts. Planted: a stem whose role has no output (Sea), and
# one whose sides cancel each other (Choir, in The Long Slip).
module DemoSongs
  L = Loomshuttle
  RATE = 48_000
  # name, dye, tempos (quarter note, bpm, ramp), meters (bar, time signature), sections (name, bars), chords as halftones from A, what follows, stems
  SONGS = [
    ["Herring Tide", "weld", [[0, 112]], [[1, "4/4"]], [["Intro", 2], ["Verse 1", 4], ["Chorus", 4], ["Verse 2", 4], ["Out", 2]], [0, 5, 7, 0], "hand", %w[strings brass loop]],
    ["Ropewalk", "cochineal", [[0, 96], [16, 96, true], [48, 104]], [[1, "4/4"]],
     [["Intro", 2], ["Verse 1", 4], ["Chorus", 3], ["Verse 2", 4], ["Chorus", 3], ["Out", 2]], [0, 3, 7, 10], "hand", %w[strings brass loop choir]],
    ["The Long Slip", "woad", [[0, 132]], [[1, "3/4"]], [["Intro", 4], ["Waltz", 8], ["Turn", 4], ["Waltz", 8]], [0, 7, 5], "hand", %w[strings choir_turned]],
    ["Lamplighter's Reel", "lichen", [[0, 120]], [[1, "7/8"]], [["Intro", 4], ["Reel", 8], ["Break", 4], ["Reel", 8]], [0, 10, 5, 7], "on", %w[brass loop]],
    ["Out with the Ebb", "heather", [[0, 84]], [[1, "4/4"], [7, "3/4"]], [["Verse", 4], ["Chorus", 4], ["Ebb", 4]], [0, 5, 9, 7], "hand", %w[strings sea]]
  ].freeze
  ROLES = { "strings" => "Strings", "brass" => "Low brass", "loop" => "Frame loop", "choir" => "Choir", "choir_turned" => "Choir", "sea" => "Sea" }.freeze

  class << self
    # @param number [Integer] of a song, from 1
    def id(number) = format("5a175a17-0000-4000-8000-%012d", number)

    # @param root [String] folder of all songs; it is made once, and what is deleted stays deleted
    def write(root)
      mark = File.join(root, ".made")
      return if File.exist?(mark)

      SONGS.each.with_index(1) { |song, number| write_song(File.join(root, id(number)), number, song) unless Dir.exist?(File.join(root, id(number))) }
      FileUtils.touch(mark)
    end

    private

    def write_song(folder, number, song)
      name, dye, tempos, meters, sections, chords, follows, stems = song
      made = "#{folder}.part"
      FileUtils.rm_rf(made)
      FileUtils.mkdir_p(made)
      bars = sections.sum(&:last)
      base = { "tempos" => tempos.map { |at, bpm, ramp| { "at" => at, "bpm" => bpm, "ramp" => ramp || false } },
               "meters" => meters.map { |bar, text| { "bar" => bar, "meter" => text } } }
      map = map_of(base)
      sounds = stems.map { |kind| [kind, Sound.new(map, bars, chords, number).send(kind)] }
      data = { "format" => L::Songs::SongFile::FORMAT, "id" => id(number), "version" => 1, "rate" => RATE, "frames" => map.sample(map.bar(bars + 1)), "name" => name, "dye" => dye,
               "sections" => sections_of(sections, dye), "follows" => follows, "click" => { "subdivision" => "eighths" }, "guide" => {},
               "stems" => sounds.each.with_index(1).map { |(kind, sound), nth| stem(made, ROLES.fetch(kind), sound, nth) }, "loudness" => nil }.merge(base)
      File.binwrite(File.join(made, "overview.u8"), overview(sounds.map(&:last)))
      File.write(File.join(made, "song.json"), L::Songs::SongFile.dump(L::Songs::SongFile.check(data)))
      File.rename(made, folder)
    end

    def map_of(base)
      L::Timing::TempoMap.new(base["tempos"].map { |one| L::Timing::TempoMap::Tempo.new(at: one["at"], bpm: one["bpm"], ramp: one["ramp"]) },
                              base["meters"].map { |one| L::Timing::TempoMap.meter(one["meter"], bar: one["bar"]) }, rate: RATE)
    end

    def sections_of(sections, dye)
      bar = 1
      sections.each.with_index(1).map do |(name, bars), key|
        { "key" => key, "name" => name, "bar" => bar, "dye" => dye }.tap { bar += bars }
      end
    end

    # @param sound [Numo::SFloat] [frames, lanes]
    def stem(folder, role, sound, number)
      path = File.join(folder, "#{format('%02d', number)} #{role}.wav")
      bext = L::Formats::Bext.new(description: role, originator: "Loomshuttle", reference: "", date: "2026-06-13", time: "12:00:00", time_reference: 0, history: "")
      file = L::Formats::Wav::Writer.new(path, bext: bext, lanes: sound.shape[1], rate: RATE, bits: 32)
      file.write(sound.to_binary)
      file.close
      { "id" => number, "name" => role, "role" => role, "file" => File.basename(path), "lanes" => sound.shape[1], "frames" => sound.shape[0],
        "sum" => Digest::SHA256.file(path).hexdigest, "source" => "", "mono_db" => mono_db(sound) }
    end

    def mono_db(sound)
      return if sound.shape[1] == 1

      both, sides = ((sound.sum(axis: 1)**2).sum / 2.0), (sound**2).sum
      (10 * Math.log10([both / sides, 1e-12].max)).round(1)
    end

    def overview(sounds)
      rows = sounds.map { |sound| (sound.shape[0] / 2400.0).ceil }.max
      columns = sounds.map { |sound| (0...rows).map { |row| byte(sound, row) } }
      (0...rows).map { |row| columns.map { |column| column[row] }.pack("C*") }.join
    end

    def byte(sound, row)
      from, to = row * 2400, [(row + 1) * 2400, sound.shape[0]].min
      from < to ? L::Audio::Level.byte(sound[from...to, true].abs.max) : 0
    end
  end

  # Stems of one song, bar by bar.
  class Sound
    def initialize(map, bars, chords, seed)
      @map, @bars, @chords = map, bars, chords
      @frames = map.sample(map.bar(bars + 1))
      @random = Random.new(seed)
    end

    # A chord a bar, wider than one speaker.
    def strings
      sides(2) do |time, bar, side|
        [0, 4, 7].sum { |step| tone(time, 220 * (1.002**side), step + chord(bar)) } * (0.08 * swell(time))
      end
    end

    def brass = sides(1, from: 2) { |time, bar, _| (tone(time, 55, chord(bar)) + (tone(time, 110, chord(bar)) * 0.5)) * (0.25 * swell(time)) }

    def choir = sides(2, from: 3) { |time, bar, side| [12, 16, 19].sum { |step| tone(time, 220, step + chord(bar) + (side * 0.04)) } * (0.05 * swell(time)) }

    def choir_turned
      left = sides(1, from: 3) { |time, bar, _| [12, 16].sum { |step| tone(time, 220, step + chord(bar)) } * (0.08 * swell(time)) }
      left.concatenate(-left, axis: 1)
    end

    def sea = sides(1) { |time, _, _| noise(time.size) * (0.1 * swell(time)) }

    # A stroke on every beat.
    def loop
      block = Numo::SFloat.zeros(@frames, 1)
      hit = noise(4800) * (Numo::NMath.exp(Numo::SFloat.new(4800).seq / -900) * 0.4)
      (2..@bars).each do |bar|
        meter = @map.meter(bar)
        meter.beats.times do |beat|
          at = @map.sample(@map.bar(bar) + (beat * meter.beat))
          size = [4800, @frames - at].min
          block[at...(at + size), 0] += hit[0...size] * (beat.zero? ? 1 : 0.6)
        end
      end
      block
    end

    private

    def sides(lanes, from: 1)
      block = Numo::SFloat.zeros(@frames, lanes)
      (from..@bars).each do |bar|
        first, last = @map.sample(@map.bar(bar)), @map.sample(@map.bar(bar + 1))
        time = Numo::SFloat.new(last - first).seq / RATE
        lanes.times { |side| block[first...last, side] = yield(time, bar, side) }
      end
      block
    end

    def chord(bar) = @chords[(bar - 1) % @chords.size]
    def tone(time, hertz, halftones) = Numo::NMath.sin(time * (2 * Math::PI * hertz * (2**(halftones / 12.0))))
    def swell(time) = (time / 0.06).clip(0, 1) * ((time[-1] - time) / 0.06).clip(0, 1)
    def noise(size) = Numo::SFloat.cast(Numo::Int16.from_binary(@random.bytes(size * 2))) / 32_768
  end
end
