# frozen_string_literal: true

require "digest"
require "json"
require "time"

module Loomshuttle
  module Formats
    # A take's manifest, take.json beside its files (docs/formats.md): its format, for everything that reads or writes it. Unreadable takes are
    # listed as such, and hide no others.
    module TakeManifest
      FILE = "take.json"
      FORMAT = "loomshuttle-take/1"
      # Says in a take's folder why it is left alone: mending it ended the recorder.
      ASIDE = ".aside"
      # Folders of takes begin with a number; others are none of ours.
      TAKE = /\A\d{1,7} /n
      # Bytes of a file that is read.
      LARGEST = 16 << 20
      UUID = /\A[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}\z/
      STATES = ["capturing", "complete", "ended early", "recovered"].freeze
      UNREADABLE = "unreadable"
      RATES = (8_000..384_000)
      # Two days at 384 kHz: nothing real is longer, and no sum of them overflows.
      FRAMES = (0..(1 << 36))
      TRACKS = 1024
      # Entries of lists; totals beside them stay exact (Recorder::GapLog).
      GAPS = 100_000
      MARKERS = 10_000
      # One folder's own files only.
      FILE_NAME = %r{\A[^/\\\0]+\z}

      LANE = (1..4096)
      LANES = Shape.list(Shape.whole(LANE), most: 2)
      TRACK = Shape.record({ "number" => Shape.whole(0..99_999), "name" => Shape.text(most: 200), "inputs" => LANES,
                             "file" => Shape.text(most: 255, least: 1, pattern: FILE_NAME) },
                           { "outputs" => LANES, "frames" => Shape.whole(FRAMES), "peak_dbfs" => Shape.number(-1000..1000), "rms_dbfs" => Shape.number(-1000..1000),
                             "clips" => Shape.whole(0..Shape::LARGEST),
                             "rests" => Shape.list(Shape.list(Shape.or_none(Shape.whole(FRAMES)), most: 2, least: 2), most: GAPS) }, others: true)
      GAP = Shape.record({ "at" => Shape.whole(FRAMES), "frames" => Shape.whole(FRAMES), "lanes" => Shape.list(Shape.whole(1..4096), most: 2, least: 2) }, others: true)
      RESTARTED = "anew" # voice: a word of the file format
      BREAK = Shape.record({ "at" => Shape.whole(FRAMES), "seconds" => Shape.number(0..1e9) }, { "kind" => Shape.one_of("paused", RESTARTED) }, others: true)
      MARKER = Shape.record({ "at" => Shape.whole(FRAMES), "name" => Shape.text(most: 200, least: 1) }, { "frames" => Shape.whole(FRAMES) }, others: true)
      SHAPE = Shape.record(
        { "format" => Shape.one_of(FORMAT), "id" => Shape.text(most: 36, pattern: UUID), "number" => Shape.whole(0..9_999_999),
          "name" => Shape.text(most: 200), "state" => Shape.one_of(*STATES), "rate" => Shape.whole(RATES), "bits" => Shape.one_of(24, 32),
          "frames" => Shape.whole(FRAMES), "started_at" => Shape.text(most: 40), "tracks" => Shape.list(TRACK, most: TRACKS) },
        { "note" => Shape.or_none(Shape.text(most: 20_000, lines: true)), "notes" => Shape.text(most: 2000, lines: true), "colour" => Shape.or_none(Shape.text(most: 16)),
          "gaps" => Shape.list(GAP, most: GAPS), "breaks" => Shape.list(BREAK, most: GAPS), "markers" => Shape.list(MARKER, most: MARKERS),
          "overview" => Shape.record({ "file" => Shape.text(most: 255, least: 1, pattern: FILE_NAME), "frames" => Shape.whole(1..1_000_000) }, others: true),
          "mirror" => Shape.or_none(Shape.record({}, { "folder" => Shape.text(most: 4096, pattern: %r{\A/}), "problem" => Shape.or_none(Shape.text(most: 4000, lines: true)) },
                                                 others: true)),
          "project" => Shape.text(most: 200) }, others: true
      )

      class << self
        # @param data [Object] parsed JSON
        # @return [Hash] the manifest with all required fields
        # @raise [Invalid]
        def check(data)
          kept = SHAPE.check(data, FILE)
          Time.iso8601(kept["started_at"])
          raise Invalid.new("#{FILE} has two tracks of one file.", where: "tracks") unless kept["tracks"].map { |track| track["file"] }.then { |all| all.uniq == all }

          kept
        rescue ArgumentError
          raise Invalid.new("#{FILE}/started_at is not a time.", where: "started_at")
        end

        # @param manifest [Hash] as read
        # @return [Array<Markers::Marker>]
        def markers(manifest) = manifest.fetch("markers", []).map { |one| Markers::Marker.new(at: one["at"], frames: one["frames"].to_i, name: one["name"]) }

        # @return [String] the manifest as file content
        def dump(data) = JSON.pretty_generate(data)

        # @param folder [String] of a take
        # @return [Hash]
        # @raise [Invalid] if it cannot be read or was set aside   @raise [Errno::ENOENT] if there is none
        def read(folder)
          aside = File.join(folder, ASIDE)
          raise Invalid.new(Text.readable(File.read(aside), most: 400), where: folder) if File.exist?(aside)

          path = File.join(folder, FILE)
          raise Invalid.new("#{FILE} is larger than #{LARGEST >> 20} MiB.", where: path) if File.size(path) > LARGEST

          check(JSON.parse(File.read(path, encoding: "UTF-8"), max_nesting: 16))
        rescue JSON::ParserError, EncodingError
          raise Invalid.new("#{FILE} is damaged: not valid JSON.", where: path)
        end

        # @param root [String] folder of all takes
        # @return [Array<Array(String, Hash)>] each take's folder and manifest, oldest first; an unreadable one is listed with a
        #   placeholder (unreadable) and hides no other
        def all(root)
          return [] unless Dir.exist?(root)

          Dir.children(root).sort.filter_map do |entry|
            folder = File.join(root, entry)
            [folder, told(folder)] if entry.b.match?(TAKE) && File.directory?(folder)
          end
        end

        # @param folder [String] of a take
        # @return [Hash] its manifest, or a placeholder if that cannot be read
        def told(folder)
          read(folder)
        rescue Errno::ENOENT
          unreadable(File.basename(folder), "It has no #{FILE}; its files are left as they are in #{Text.readable(folder, most: 400)}.")
        rescue SystemCallError, Invalid => e
          unreadable(File.basename(folder), "It cannot be read: #{Text.readable(e.message, most: 400)} Its files are left as they are in #{Text.readable(folder, most: 400)}.")
        end

        # Placeholder for a folder whose manifest cannot be read.
        # @param name [String] of the folder   @param why [String] reason, a sentence
        # @return [Hash] a manifest without tracks
        def unreadable(name, why)
          plain = Text.readable(name, most: 120)
          id = Digest::SHA256.hexdigest(name.b).unpack("a8a4a4a4a12").join("-")
          { "format" => FORMAT, "id" => id, "number" => plain[/\A\d{1,7}/].to_i, "name" => plain.sub(/\A\d{1,7} /, ""), "state" => UNREADABLE,
            "note" => why, "rate" => 48_000, "bits" => 24, "frames" => 0, "started_at" => "1970-01-01T00:00:00Z", "tracks" => [], "gaps" => [], "breaks" => [], "markers" => [] }
        end
      end
    end
  end
end
