# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # What a recorder that was killed left behind: takes whose manifest still says "capturing". Their files are cut to
    # the length that all of them have, and made true.
    module Recovery
      # @param root [String] folder of all takes
      # @return [Array<Hash>] manifests of the takes that were mended
      def self.run(root)
        Manifest.all(root).filter_map do |folder, manifest|
          mend(folder, manifest) if manifest["state"] == "capturing"
        end
      end

      class << self
        private

        def mend(folder, manifest)
          entries = manifest["tracks"].select { |track| File.exist?(File.join(folder, track["file"])) }
          frames = entries.map { |track| Formats::Wav::Mend.frames_on_disk(File.join(folder, track["file"])) }.min || 0
          FileUtils.rm_f(File.join(folder, TakeFolder::SPARE))
          entries.each { |track| mend_track(folder, track, frames) }
          seconds = format("%.1f", frames / manifest["rate"].to_f)
          words = ["The recorder ended while capturing; #{seconds} s of #{entries.size} tracks were recovered."] + TakeBreaks.words(manifest["breaks"], manifest["rate"])
          Manifest.ending(manifest.merge("tracks" => entries, "state" => "recovered", "note" => words.join(" ")), frames)
            .tap { |mended| Manifest.write(folder, mended) }
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
