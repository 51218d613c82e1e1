# frozen_string_literal: true

require "time"

module Loomshuttle
  module Recorder
    # Rebuilds a take's manifest from its files (bext and iXML chunks), if take.json is missing, as after a power cut.
    module RebuiltManifest
      WORDS = "take.json was missing; it was rebuilt from the files."
      # No manifest is shorter; a power cut can leave one of zeros.
      EMPTY = /\A[\0\s]*\z/n
      private_constant :EMPTY

      class << self
        # @param folder [String] of a take
        # @return [Boolean] whether its manifest is missing or empty, and there are files to rebuild it from
        def needed?(folder)
          path = File.join(folder, Manifest::FILE)
          return false if File.exist?(File.join(folder, Manifest::ASIDE)) || (File.exist?(path) && !File.read(path, 4096, mode: "rb").to_s.match?(EMPTY))

          wavs(folder).any?
        end

        # @return [Hash, nil] a manifest of an open take; nil if no file can be read
        def of(folder)
          files = wavs(folder).filter_map { |name| description(File.join(folder, name)) }
          return if files.empty?

          number, name = File.basename(folder).split(" ", 2)
          Formats::TakeManifest.check(
            { "format" => Formats::TakeManifest::FORMAT, "id" => id_of(folder, files), "number" => number.to_i, "name" => take_name(files, number) || name.to_s,
              "state" => "capturing", "rebuilt" => WORDS, "rate" => files.first[:rate], "bits" => files.first[:bits], "frames" => 0, "started_at" => started_at(files).iso8601,
              "project" => files.filter_map { |one| one[:ixml]["project"] }.first.to_s, "gaps" => [], "breaks" => [], "markers" => [], "tracks" => tracks(files) }
          ).merge("rebuilt" => WORDS)
        end

        private

        def wavs(folder) = Dir.children(folder).grep(/\.wav\z/i).sort

        def description(path)
          reader = Formats::Wav::Reader.new(path)
          { file: File.basename(path), rate: reader.rate, bits: reader.bits, lanes: reader.lanes, bext: reader.bext, ixml: Formats::IXml.read(reader.ixml.to_s) }
        rescue SystemCallError, Invalid
          nil
        ensure
          reader&.close
        end

        def id_of(folder, files)
          known = files.filter_map { |one| one[:ixml]["family"] }.grep(Formats::TakeManifest::UUID).first
          known || Formats::TakeManifest.unreadable(File.basename(folder), "")["id"]
        end

        # The name is written behind the take's number.
        def take_name(files, number) = files.filter_map { |one| one[:ixml]["take"] }.first&.delete_prefix("#{number.to_i} ")&.slice(0, 60)

        def started_at(files)
          bext = files.filter_map { |one| one[:bext] }.first
          Time.strptime("#{bext.date} #{bext.time}", "%Y-%m-%d %H:%M:%S")
        rescue ArgumentError, NoMethodError # no such chunk, or no time in it
          Time.at(0).utc
        end

        def tracks(files)
          taken = files.filter_map { |one| one[:ixml]["index"] }
          files.map do |one|
            number = one[:ixml]["index"] || (taken << (1..).find { |free| !taken.include?(free) }).last
            { "number" => number, "name" => track_name(one), "inputs" => inputs(one, number), "outputs" => [], "file" => one[:file] }
          end
        end

        def track_name(one)
          names = one[:ixml]["tracks"].map { |track| track["name"] }
          name = names.size == 2 ? names.first.delete_suffix(" L") : names.first
          name.to_s.empty? ? File.basename(one[:file], ".*")[0, 60] : name[0, 60]
        end

        def inputs(one, number)
          lanes = one[:ixml]["tracks"].map { |track| track["lane"] }
          lanes.size == one[:lanes] && lanes.size <= 2 && lanes.all? ? lanes : Array.new([one[:lanes], 2].min) { |side| number.clamp(1, 4095) + side }
        end
      end
    end
  end
end
