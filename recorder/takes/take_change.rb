# frozen_string_literal: true

require "fileutils"

module Loomshuttle
  module Recorder
    # Changes of finished takes: descriptions, names of tracks, markers, and moving to the bin and back.
    module TakeChange
      BIN = "bin"
      WORDS = { "name" => 60, "notes" => 2000, "colour" => 16 }.freeze
      # Characters of a track's name.
      TRACK_NAME = 60

      class << self
        # @param folder [String]   @param manifest [Hash]
        # @param changes [Hash{String=>Object}] name, notes, colour, markers, and tracks (number, name); absent ones stay.
        #   Files keep their names; exports use the new ones.
        # @return [Hash] the changed manifest
        # @raise [Invalid]
        def apply(folder, manifest, changes)
          words = changes.slice(*WORDS.keys).to_h { |field, value| [field, text(field, value)] }
          markers = changes.key?("markers") && TakeMarkers.parse(changes["markers"], manifest["frames"])
          changed = manifest.merge(words)
          changed["tracks"] = renamed(manifest, changes["tracks"]) if changes.key?("tracks")
          if markers
            changed["markers"] = TakeMarkers.data(markers)
            write_markers(folder, changed, markers)
          end
          Manifest.write(folder, changed)
          changed
        end

        # Writes markers into the take's files and the lists beside them. Samples stay untouched; only the chunks after them are rewritten.
        # @param manifest [Hash]   @param markers [Array<Formats::Markers::Marker>]
        def write_markers(folder, manifest, markers)
          tail = Formats::Markers.chunks(markers)
          manifest["tracks"].each do |track|
            path = File.join(folder, track["file"])
            Formats::Wav::Mend.cut(path, track["frames"], tail) if File.exist?(path)
          end
          TakeMarkers.write_lists(folder, manifest["name"], markers, manifest["rate"])
        end

        # Moves a take into the bin.
        def discard(root, folder)
          FileUtils.mkdir_p(File.join(root, BIN))
          Runtime::Files.publish(folder, free_name(File.join(root, BIN, File.basename(folder))))
        end

        # Adopts a folder that already is a take, under a new number.
        # @return [Hash] the changed manifest
        # @raise [Invalid] if it is not a take
        def adopt(root, folder, number)
          manifest = Manifest.read(folder) or raise Invalid.new("#{folder} is not a take.", where: "folder")
          Manifest.write(folder, manifest.merge("number" => number))
          Runtime::Files.move(folder, File.join(root, Formats::FileNames.take_folder(number, manifest["name"])))
          manifest.merge("number" => number)
        end

        # @return [Array<Hash>] manifests of the takes in the bin, with "bytes"
        def binned(root) = Manifest.all(File.join(root, BIN)).map { |folder, manifest| manifest.merge("bytes" => bytes(folder)) }

        # Chooses another name if this one is taken.
        def free_name(folder) = File.exist?(folder) ? "#{folder} again" : folder

        # @param number [Integer] of a take in the bin
        def restore(root, number)
          folder, = Manifest.all(File.join(root, BIN)).find { |_, one| one["number"] == number }
          Runtime::Files.publish(folder, free_name(File.join(root, File.basename(folder))))
        end

        # Deletes everything in the bin permanently.
        def empty(root) = Manifest.all(File.join(root, BIN)).map(&:first).each { |folder| FileUtils.rm_r(folder) }

        private

        def renamed(manifest, changes)
          names = changes.to_h { |one| one.values_at("number", "name") }
          unknown = names.keys - manifest["tracks"].map { |track| track["number"] }
          raise Invalid.new("Take #{manifest['number']} has no track #{unknown.join(', ')}.", where: "tracks") if unknown.any?

          manifest["tracks"].map { |track| names.key?(track["number"]) ? track.merge("name" => track_name(names[track["number"]])) : track }
        end

        def track_name(text)
          clean = Text.keep(text, "tracks", most: 4000).strip
          raise Invalid.new("a track needs a name of 1 to #{TRACK_NAME} characters", where: "tracks") unless clean.length.between?(1, TRACK_NAME)

          clean
        end

        def text(field, value)
          clean = Text.keep(value, field, most: 4000, lines: field == "notes").strip
          raise Invalid.new("a take needs a name", where: field) if field == "name" && clean.empty?
          raise Invalid.new("#{field} has #{clean.length} characters, #{WORDS[field]} fit", where: field) if clean.length > WORDS[field]

          clean
        end

        def bytes(folder)
          Dir.children(folder).sum { |entry| File.size(File.join(folder, entry)) }
        rescue SystemCallError
          0
        end
      end
    end
  end
end
