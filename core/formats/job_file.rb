# frozen_string_literal: true

require "json"
require "time"

module Loomshuttle
  module Formats
    # A job's file, job.json (docs/formats.md): whoever requests a job writes it, the porter updates it, the screens read it. Unreadable files are
    # listed as such.
    module JobFile
      FILE = "job.json"
      KINDS = %w[export bring-in song render vary].freeze
      STATES = %w[waiting running done failed cancelled].freeze
      OPEN = %w[waiting running].freeze
      UNREADABLE = "unreadable"
      # Forms of an export's sound (Porter::SoundForm).
      SOUNDS = %w[captured 24 16 flac together].freeze
      # Bytes of a file that is read.
      LARGEST = 16 << 20
      ID = TakeManifest::UUID
      FRAME = Shape.or_none(Shape.whole(TakeManifest::FRAMES))
      FOLDER = Shape.text(most: 4096, least: 1, pattern: %r{\A/})

      # A part of a recording: one file, or left and right; lane: one channel of it, from 0, or nil for all.
      PIECE = Shape.list(Shape.record({ "file" => FOLDER, "lane" => Shape.or_none(Shape.whole(0..255)) }), most: 2, least: 1)
      ITEM = Shape.record({ "title" => Shape.text(most: 200), "track" => Shape.or_none(Shape.whole(1..99_999)), "lanes" => Shape.whole(1..2), "wide" => Shape.boolean,
                            "offset" => Shape.whole(TakeManifest::FRAMES), "files" => Shape.list(FOLDER, most: 500, least: 1) },
                          { "frames" => Shape.whole(TakeManifest::FRAMES), "pieces" => Shape.list(PIECE, most: 500, least: 1) })
      COMMON = [{ "id" => Shape.text(most: 36, pattern: ID), "kind" => Shape.one_of(*KINDS), "state" => Shape.one_of(*STATES), "made_at" => Shape.text(most: 40),
                  "form" => Shape.one_of("folder", "zip", "take", "song"), "name" => Shape.text(most: 200, least: 1) },
                { "done" => Shape.whole(0..Shape::LARGEST), "total" => Shape.whole(0..Shape::LARGEST), "error" => Shape.or_none(Shape.text(most: 4000, lines: true)),
                  "who" => Shape.or_none(Shape.text(most: 40)), "result" => Shape.or_none(Shape.text(most: 4096)), "tries" => Shape.whole(0..1000),
                  "files" => Shape.map(Shape.text(most: 128), most: 4096) }].freeze
      EXPORT = Shape.record({ "take" => FOLDER, "number" => Shape.whole(0..9_999_999), "form" => Shape.one_of("folder", "zip") },
                            { "tracks" => Shape.or_none(Shape.list(Shape.whole(0..99_999), most: TakeManifest::TRACKS)), "from" => FRAME,
                              "to" => FRAME, "place" => FOLDER, "sound" => Shape.or_none(Shape.one_of(*SOUNDS)) }, others: true)
      BRING_IN = Shape.record({ "rate" => Shape.whole(TakeManifest::RATES), "project" => Shape.text(most: 200), "started_at" => Shape.text(most: 40),
                                "items" => Shape.list(ITEM, most: 500, least: 1) }, { "notes" => Shape.text(most: 2000, lines: true) }, others: true)
      STEM = Shape.record({ "name" => Shape.text(most: 80, least: 1), "role" => Shape.text(most: 40, least: 1), "lanes" => Shape.whole(1..2), "wide" => Shape.boolean,
                            "files" => Shape.list(FOLDER, most: 2, least: 1) }, { "frames" => Shape.whole(TakeManifest::FRAMES) })
      SONG = Shape.record({ "rate" => Shape.whole(TakeManifest::RATES), "stems" => Shape.list(STEM, most: 64, least: 1) },
                          { "midi" => Shape.or_none(FOLDER), "bpm" => Shape.or_none(Shape.number(20..400)) }, others: true)
      RENDER = Shape.record({ "song" => FOLDER, "roles" => Shape.list(Shape.record({}, others: true), most: 200), "pilot" => Shape.record({}, others: true),
                              "item" => Shape.record({}, others: true), "fps" => Shape.whole(24..30), "hour" => Shape.whole(1..1000) }, {}, others: true)
      VARY = Shape.record({ "song" => FOLDER, "tempo" => Shape.whole(70..140), "key" => Shape.whole(-6..6) }, {}, others: true)
      EACH = { "export" => EXPORT, "bring-in" => BRING_IN, "song" => SONG, "render" => RENDER, "vary" => VARY }.freeze
      ALL = Shape.record(*COMMON, others: true)

      class << self
        # @param data [Object] parsed JSON   @param id [String, nil] name of its folder
        # @return [Hash]
        # @raise [Invalid]
        def check(data, id: nil)
          kept = ALL.check(data, FILE)
          kept = EACH.fetch(kept["kind"]).check(kept, FILE)
          [kept["made_at"], kept["started_at"]].compact.each { |time| Time.iso8601(time) }
          raise Invalid.new("#{FILE}/name is not a file name.", where: "name") if %w[export render].include?(kept["kind"]) && !kept["name"].match?(TakeManifest::FILE_NAME)
          raise Invalid.new("#{FILE} is that of another job.", where: "id") unless id.nil? || id == kept["id"]

          kept
        rescue ArgumentError
          raise Invalid.new("#{FILE} has an invalid time.", where: "made_at")
        end

        # @param folder [String] of a job; its name is the job's id
        # @return [Hash]
        # @raise [Invalid] when it cannot be read   @raise [Errno::ENOENT] when there is none
        def read(folder)
          path = File.join(folder, FILE)
          raise Invalid.new("#{FILE} is larger than #{LARGEST >> 20} MiB.", where: path) if File.size(path) > LARGEST

          check(Document.keep(JSON.parse(File.read(path, encoding: "UTF-8"), max_nesting: 32), FILE), id: File.basename(folder))
        rescue JSON::ParserError, EncodingError, ArgumentError
          raise Invalid.new("#{FILE} is damaged: not valid JSON.", where: path)
        end

        # @return [String] a job as the file holds it
        def dump(data) = JSON.pretty_generate(data)

        # Placeholder for a job that cannot be read.
        # @param id [String] name of its folder   @param made_at [Time]
        def unreadable(id, why, made_at)
          { "id" => Text.readable(id, most: 80), "kind" => "export", "number" => nil, "name" => "A job that cannot be read", "form" => "folder", "state" => UNREADABLE, "done" => 0,
            "total" => 0, "error" => why, "made_at" => made_at.utc.iso8601(3), "who" => nil, "result" => nil }
        end
      end
    end
  end
end
