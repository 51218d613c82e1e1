# frozen_string_literal: true

require "json"

module Loomshuttle
  module Songs
    # A song's file, song.json beside its stems (docs/formats.md): its format, for everything that reads or writes it.
    module SongFile
      FILE = "song.json"
      FORMAT = "loomshuttle-song/1"
      # Bytes of a file that is read; stems and sections of a song.
      LARGEST, STEMS, SECTIONS = 4 << 20, 64, 500
      ID = Formats::TakeManifest::UUID
      FRAMES = Shape.whole(Formats::TakeManifest::FRAMES)
      FILE_NAME = Shape.text(most: 255, least: 1, pattern: %r{\A[^/\\\0]+\z})
      FOLLOWS = %w[hand on pause].freeze
      DYES = %w[walnut weld cochineal woad madder terracotta indigo lichen heather iron verdigris saffron].freeze
      # Keys and ids: they stay while others come and go.
      NUMBER = Shape.whole(0..99_999)
      # A place in quarter notes: whole, or a fraction such as "7/2".
      QUARTER = Shape.any_of(Shape.whole(0..1_000_000), Shape.text(most: 40, pattern: %r{\A\d{1,15}(?:/[1-9]\d{0,11})?\z}))
      DECIBELS = Shape.number(-80..20)

      TEMPO = Shape.record({ "at" => QUARTER, "bpm" => Shape.number(Timing::TempoMap::BPM) }, { "ramp" => Shape.boolean })
      METER = Shape.record({ "bar" => Shape.whole(1..100_000), "meter" => Shape.text(most: 5, pattern: %r{\A\d{1,2}/\d{1,2}\z}) })
      SECTION = Shape.record({ "key" => Shape.whole(1..99_999), "name" => Shape.text(most: 40, least: 1), "bar" => Shape.whole(1..100_000) },
                             { "dye" => Shape.one_of(*DYES), "shift" => Shape.whole(-10_000_000..10_000_000), "click" => Shape.boolean, "words" => Shape.text(most: 120) })
      STEM = Shape.record({ "id" => NUMBER, "name" => Shape.text(most: 80, least: 1), "role" => Shape.text(most: 40, least: 1), "file" => FILE_NAME, "lanes" => Shape.whole(1..2),
                            "frames" => FRAMES, "sum" => Shape.text(most: 64, pattern: /\A\h{64}\z/) },
                          { "gain_db" => DECIBELS, "mute" => Shape.boolean, "source" => Shape.text(most: 255), "mono_db" => Shape.or_none(Shape.number(-200..20)) })
      ACCENTS = Shape.map(Shape.list(Shape.whole(Timing::TempoMap::BEATS), most: 32), most: 40)
      CLICK = Shape.record({}, { "on" => Shape.boolean, "sound" => Shape.one_of(*Audio::ClickSounds::NAMES), "level_db" => DECIBELS,
                                 "subdivision" => Shape.one_of(*Timing::Click::SUBDIVISIONS.keys), "accents" => ACCENTS, "count_in" => Shape.whole(0..8),
                                 "stem" => Shape.or_none(NUMBER) })
      GUIDE = Shape.record({}, { "on" => Shape.boolean, "level_db" => DECIBELS, "voice" => Shape.text(most: 20, pattern: /\A[a-z]{2,3}(?:-[a-z0-9]+)*\z/),
                                 "speed" => Shape.whole(80..400), "count" => Shape.boolean })

      # What people may change of a song.
      CHANGES = Shape.record({}, { "name" => Shape.text(most: 80, least: 1), "dye" => Shape.one_of(*DYES), "start" => FRAMES, "frames" => FRAMES,
                                   "tempos" => Shape.list(TEMPO, most: Timing::TempoMap::MOST, least: 1), "meters" => Shape.list(METER, most: Timing::TempoMap::MOST, least: 1),
                                   "sections" => Shape.list(SECTION, most: SECTIONS), "stems" => Shape.list(STEM, most: STEMS), "click" => CLICK, "guide" => GUIDE,
                                   "follows" => Shape.one_of(*FOLLOWS), "pause" => Shape.number(0..3600), "trim_db" => DECIBELS,
                                   "notes" => Shape.text(most: 4000, lines: true), "crew" => Shape.text(most: 400, lines: true) })
      ALL = Shape.record({ "format" => Shape.one_of(FORMAT), "id" => Shape.text(most: 36, pattern: ID), "version" => Shape.whole(1..Shape::LARGEST),
                           "rate" => Shape.whole(Formats::TakeManifest::RATES), "frames" => FRAMES, "name" => Shape.text(most: 80, least: 1) },
                         { "loudness" => Shape.or_none(Shape.number(-200..20)) })

      BLANK = { "dye" => "indigo", "start" => 0, "tempos" => [{ "at" => 0, "bpm" => 120, "ramp" => false }], "meters" => [{ "bar" => 1, "meter" => "4/4" }], "sections" => [],
                "stems" => [], "click" => {}, "guide" => {}, "follows" => "hand", "pause" => 0, "loudness" => nil, "trim_db" => 0, "notes" => "", "crew" => "" }.freeze
      BLANKS = { "sections" => { "dye" => "indigo", "shift" => 0, "click" => true, "words" => "" },
                 "stems" => { "gain_db" => 0, "mute" => false, "source" => "", "mono_db" => nil },
                 "tempos" => { "ramp" => false } }.freeze
      BLANK_CLICK = { "on" => true, "sound" => "wood", "level_db" => -12, "subdivision" => "beats", "accents" => {}, "count_in" => 1, "stem" => nil }.freeze
      BLANK_GUIDE = { "on" => false, "level_db" => -12, "voice" => "en", "speed" => 160, "count" => true }.freeze

      class << self
        # @param data [Object] parsed JSON
        # @return [Hash] the song with all fields
        # @raise [Invalid]
        def check(data)
          kept = ALL.check(data, FILE).merge(CHANGES.check(data, FILE))
          full = BLANK.merge(kept)
          BLANKS.each { |list, blank| full = full.merge(list => full[list].map { |one| blank.merge(one) }) }
          full = full.merge("click" => BLANK_CLICK.merge(full["click"]), "guide" => BLANK_GUIDE.merge(full["guide"]))
          fits(full)
          full
        end

        # @param data [Hash] as returned by check
        # @return [Song]
        def song(data)
          Song.new(id: data["id"], version: data["version"], name: data["name"], dye: data["dye"], rate: data["rate"], frames: data["frames"], start: data["start"], map: map(data),
                   sections: values(Section, data["sections"]), stems: values(Stem, data["stems"]), click: value(ClickPlan, data["click"]), guide: value(GuidePlan, data["guide"]),
                   follows: data["follows"], pause: data["pause"], loudness: data["loudness"], trim_db: data["trim_db"], notes: data["notes"], crew: data["crew"])
        end

        # @param folder [String] of a song
        # @return [Hash]
        # @raise [Invalid] when it cannot be read   @raise [Errno::ENOENT]
        def read(folder)
          path = File.join(folder, FILE)
          raise Invalid.new("#{FILE} is larger than #{LARGEST >> 20} MiB.", where: path) if File.size(path) > LARGEST

          check(Document.keep(JSON.parse(File.read(path, encoding: "UTF-8"), max_nesting: 16), FILE))
        rescue JSON::ParserError, EncodingError
          raise Invalid.new("#{FILE} is damaged: not valid JSON.", where: path)
        end

        # @return [String] the song as file content
        def dump(data) = JSON.pretty_generate(data)

        private

        def map(data)
          tempos = data["tempos"].map { |one| Timing::TempoMap::Tempo.new(at: one["at"].to_s.to_r, bpm: one["bpm"], ramp: one["ramp"]) }
          Timing::TempoMap.new(tempos, data["meters"].map { |one| Timing::TempoMap.meter(one["meter"], bar: one["bar"]) }, rate: data["rate"])
        end

        def values(kind, list) = list.map { |one| value(kind, one) }.freeze
        def value(kind, fields) = kind.new(**kind.members.to_h { |field| [field, fields[field.to_s]] })

        def fits(data)
          song = song(data)
          Timing::Click.new(song.map, subdivision: song.click.subdivision, accents: song.click.accents)
          once(song.sections.map(&:key), "sections", "two sections have one number")
          once(song.stems.map(&:id), "stems", "two stems have one number")
          once(song.stems.map(&:file), "stems", "two stems have one file")
          refuse("click", "the click's stem is none of the song's") if song.click.stem && song.stem(song.click.stem).nil?
          starts = song.sections.drop(1).map { |section| [section, song.begins(section)] }
          late = starts.find { |_, at| at >= song.frames }
          refuse("sections", "#{late.first.name} begins behind the end of the song") if late
          in_order = [song.lead, *starts.map(&:last)].each_cons(2).all? { |one, other| one < other }
          refuse("sections", "sections go from the beginning on, each later than the one before") unless in_order
        end

        def once(list, where, why) = list.uniq == list || refuse(where, why)
        def refuse(where, why) = raise(Invalid.new("#{why.sub(/\A./, &:upcase)}.", where: where))
      end
    end
  end
end
