# frozen_string_literal: true

require "fileutils"

module Loomshuttle
  module Recorder
    # What a recorder that was killed left behind: takes whose manifest still says "capturing". Their files are cut to
    # the length that all of them have, and made true; a file that has no sound in it yet is left out. A take that ends the recorder while
    # it is mended is put aside at the next start, and left as it is.
    module Recovery
      # Stands in a take's folder while it is mended.
      MENDING = ".mending"

      # @param root [String] folder of all takes
      # @param cautious [Boolean] whether nothing is tried, since the recorder ends again and again
      # @return [Array<Hash>] manifests of the takes that were mended
      def self.run(root, cautious: false)
        put_aside(root, cautious)
        Manifest.all(root).filter_map do |folder, manifest|
          guarded(folder) { mend(folder, manifest) } if manifest["state"] == "capturing"
        end
      end

      class << self
        private

        def put_aside(root, cautious)
          return unless Dir.exist?(root)

          Dir.children(root).each do |entry|
            folder = File.join(root, entry)
            died = File.exist?(File.join(folder, MENDING)) || (cautious && Manifest.read(folder)&.fetch("state") == "capturing")
            aside(folder, "Mending it ended the recorder.") if died
          end
        end

        # What cannot be mended is told, and hides no other take.
        def guarded(folder)
          FileUtils.touch(File.join(folder, MENDING))
          yield
        rescue StandardError => e
          Runtime::Log.surprise(e, "mending #{Text.readable(folder, most: 300)}")
          aside(folder, "It could not be mended: #{Text.readable(e.message, most: 300)}")
          nil
        ensure
          FileUtils.rm_f(File.join(folder, MENDING))
        end

        def aside(folder, why)
          File.write(File.join(folder, Manifest::ASIDE), why)
          FileUtils.rm_f(File.join(folder, MENDING))
        rescue SystemCallError => e
          Runtime::Log.surprise(e, "putting #{Text.readable(folder, most: 300)} aside")
        end

        def mend(folder, manifest)
          lengths = manifest["tracks"].to_h { |track| [track, frames_in(File.join(folder, track["file"]))] }
          entries = lengths.compact.keys
          frames = lengths.values.compact.min || 0
          FileUtils.rm_f(File.join(folder, TakeFolder::SPARE))
          entries.each { |track| mend_track(folder, track, frames) }
          Manifest.ending(manifest.merge("tracks" => entries, "state" => "recovered", "note" => words(manifest, entries, frames).join(" ")), frames)
            .tap { |mended| keep(folder, mended) }
        end

        # Its length first; markers into its files only then, so that an end in between costs no more than those.
        def keep(folder, mended)
          Manifest.write(folder, mended)
          TakeChange.write_markers(folder, mended, Formats::TakeManifest.markers(mended)) unless mended["markers"].empty?
        end

        # @return [Integer, nil] nil for a file that is not there, or that nothing has been written to, as after a power cut
        def frames_in(path)
          Formats::Wav::Mend.frames_on_disk(path)
        rescue SystemCallError, Invalid
          nil
        end

        def words(manifest, entries, frames)
          lost = manifest["tracks"].size - entries.size
          [format("The recorder ended while capturing; %<seconds>.1f s of %<tracks>d tracks were recovered.", seconds: frames / manifest["rate"].to_f, tracks: entries.size),
           ("Of #{lost} more there was no sound on the disk." if lost.positive?), *TakeBreaks.words(manifest["breaks"], manifest["rate"])].compact
        end

        def mend_track(folder, track, frames)
          path = File.join(folder, track["file"])
          Formats::Wav::Mend.cut(path, frames)
          track.merge!(levels(path))
        end

        # Measured again, a stretch at a time: the manifest's figures end before the file does.
        def levels(path)
          reader = Formats::Wav::Reader.new(path)
          sum = Audio::LevelSum.new(reader.lanes)
          (0...reader.frames).step(480_000) do |from|
            block = reader.read(from, 480_000)
            sum.add(block.shape[0], Audio::Level.peak_amplitudes(block), Audio::Level.mean_squares(block))
          end
          lanes = (0...reader.lanes).to_a
          { "peak_dbfs" => sum.peak_dbfs(lanes).round(2), "rms_dbfs" => sum.rms_dbfs(lanes).round(2) }
        ensure
          reader&.close
        end
      end
    end
  end
end
