# frozen_string_literal: true

require "fileutils"

module Loomshuttle
  module Recorder
    # Closes the takes that a recorder left open when it was killed. Each file keeps its own length, and shorter ones are filled up with
    # silence, so that all tracks stay aligned. This reads no sound and waits for no disk, so that the next capture can begin at once; levels
    # are measured later (Recheck). A take that ends the recorder while it is closed is put aside at the next start.
    module Recovery
      # Stands in a take's folder while it is closed.
      MENDING = ".mending"
      # In the manifest of a take whose levels are not measured yet.
      UNMEASURED = "unmeasured"
      # A manifest that may need care, before it is parsed: thousands of others are only looked at.
      OPEN = /"state":\s*"capturing"|"#{UNMEASURED}":\s*true/

      # @param root [String] folder of all takes
      # @param cautious [Boolean] whether to leave takes alone, because the recorder has crashed repeatedly
      # @return [Array<Hash>] manifests of the takes that were closed, each with its "folder"
      def self.run(root, cautious: false)
        folders(root).filter_map do |folder|
          next aside(folder, "Closing it ended the recorder.") if File.exist?(File.join(folder, MENDING)) || (cautious && open?(folder))

          guarded(folder) { close(folder) } if open?(folder) || RebuiltManifest.needed?(folder)
        end
      end

      class << self
        private

        def folders(root)
          return [] unless Dir.exist?(root)

          Dir.children(root).sort.select { |entry| entry.b.match?(Formats::TakeManifest::TAKE) }.map { |entry| File.join(root, entry) }.select { |path| File.directory?(path) }
        end

        def open?(folder)
          !File.exist?(File.join(folder, Manifest::ASIDE)) && File.read(File.join(folder, Manifest::FILE), mode: "rb").match?(OPEN)
        rescue SystemCallError
          false
        end

        # What cannot be closed is reported, and hides no other take.
        def guarded(folder)
          FileUtils.touch(File.join(folder, MENDING))
          yield
        rescue StandardError => e
          Runtime::Log.surprise(e, "closing #{Text.readable(folder, most: 300)}")
          aside(folder, "It could not be recovered: #{Text.readable(e.message, most: 300)}")
        ensure
          FileUtils.rm_f(File.join(folder, MENDING))
        end

        # @return [nil]
        def aside(folder, why)
          Runtime::Files.write(File.join(folder, Manifest::ASIDE), why)
          FileUtils.rm_f(File.join(folder, MENDING))
          nil
        rescue SystemCallError => e
          Runtime::Log.surprise(e, "putting #{Text.readable(folder, most: 300)} aside")
        end

        def close(folder)
          manifest = RebuiltManifest.needed?(folder) ? RebuiltManifest.of(folder) : Manifest.read(folder)
          return unless manifest

          lengths = manifest["tracks"].to_h { |track| [track, frames_in(File.join(folder, track["file"]))] }
          frames = lengths.values.compact.max || 0
          FileUtils.rm_f(File.join(folder, TakeFolder::SPARE))
          ended = ended(manifest, lengths, frames)
          close_files(folder, ended)
          Manifest.write(folder, ended)
          ended.merge("folder" => folder)
        end

        def ended(manifest, lengths, frames)
          kept = lengths.compact.map { |track, length| silent_from(track, length, frames) }
          lost = lengths.select { |_, length| length.nil? }.keys
          words = RecoveryWords.of(manifest, kept, lost, frames)
          Manifest.ending(manifest.merge("tracks" => kept, "state" => "recovered", "note" => words, UNMEASURED => true, **silence(manifest, kept, frames)), frames)
        end

        # A take that was closed before its levels were measured keeps what was found then.
        def silent_from(track, length, frames)
          from = [length, track["silent_from"]].compact.min
          from < frames ? track.merge("silent_from" => from) : track
        end

        # What was filled up is a gap like any other.
        def silence(manifest, kept, frames)
          known = manifest["gaps"].to_a
          added = kept.select { |track| track["silent_from"] }.flat_map do |track|
            track["inputs"].map { |lane| { "at" => track["silent_from"], "frames" => frames - track["silent_from"], "lanes" => [lane, lane] } }
          end - known
          return {} if added.empty?

          total = manifest["gaps_total"] || { "count" => known.size, "frames" => known.sum { |gap| gap["frames"] }, "unlisted" => 0 }
          { "gaps" => known + added,
            "gaps_total" => total.merge("count" => total["count"] + added.size, "frames" => total["frames"] + added.sum { |gap| gap["frames"] }) }
        end

        def close_files(folder, manifest)
          markers = Formats::TakeManifest.markers(manifest)
          tail = Formats::Markers.chunks(markers)
          manifest["tracks"].each { |track| Formats::Wav::Mend.cut(File.join(folder, track["file"]), manifest["frames"], tail, sync: false) }
          TakeMarkers.write_lists(folder, manifest["name"], markers, manifest["rate"])
        end

        # @return [Integer, nil] nil for a file that is not there, or that nothing has been written to, as after a power cut
        def frames_in(path)
          Formats::Wav::Mend.frames_on_disk(path)
        rescue SystemCallError, Invalid
          nil
        end
      end
    end
  end
end
