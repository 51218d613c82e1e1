# frozen_string_literal: true

require "json"

module Loomshuttle
  module Porter
    # A part of a take: some of its tracks between two frames, with the markers in it, as if the take had started there.
    class Cut
      attr_reader :from, :to, :tracks, :markers

      # @param folder [String] of the take   @param tracks [Array<Integer>, nil] numbers; nil for all
      # @param from [Integer, nil] frame   @param to [Integer, nil]
      # @raise [Invalid] if there is no such take, track or range
      def initialize(folder, tracks: nil, from: nil, to: nil)
        @folder = folder
        @take = Formats::TakeManifest.read(folder)
        @from, @to = from || 0, to || @take["frames"]
        @tracks = @take["tracks"].select { |track| tracks.nil? || tracks.include?(track["number"]) }
        raise Invalid.new("Take #{@take['number']} has none of these tracks.", where: "tracks") if @tracks.empty?
        raise Invalid.new("The range is not inside the take.", where: "from") unless @from.between?(0, @to - 1) && @to <= @take["frames"]

        @markers = Formats::TakeManifest.markers(@take).filter_map { |marker| moved(marker) }
      rescue SystemCallError
        raise Invalid.new("There is no take in #{folder} any more.", where: "take")
      end

      # @param track [Hash, nil] nil: all in one file
      # @return [String] name of the exported file, from the present names of take and track
      def file(track)
        return "#{Formats::FileNames.safe(@take['name'])} #{format('%04d', @take['number'])}.wav" unless track

        Formats::FileNames.track(@take["name"], @take["number"], track["number"], track["name"])
      end

      # @return [Integer] bits of a sample in the take
      def bits = @take["bits"]

      # @return [String] file of a track
      def path(track) = File.join(@folder, track["file"])

      # @return [Integer] bytes of the sound
      def bytes = @tracks.sum { |track| track["inputs"].size } * (to - from) * @take["bits"] / 8

      # @param some [Array<Hash>] tracks of one file   @param bits [Integer] of a sample in it
      # @return [Formats::Wav::Writer] whose time reference is the start of the part
      def writer(some, path, bits: self.bits)
        bext = Formats::Wav::Reader.new(self.path(some.first)).tap(&:close).bext || plain
        since = bext.time_reference + from
        described = some.map { |track| Formats::IXml::Track.new(number: track["number"], name: track["name"], inputs: track["inputs"]) }
        ixml = Formats::IXml.write(project: @take.fetch("project", ""), take: "#{@take['number']} #{@take['name']}", tracks: described,
                                   id: "#{@take['id']}-#{some.map { |track| track['number'] }.minmax.uniq.join('-')}", family: @take["id"], rate: @take["rate"], bits: bits,
                                   since_midnight: since)
        bext = bext.with(description: @take["name"]) if some.size > 1
        Formats::Wav::Writer.new(path, bext: bext.with(time_reference: since), ixml: ixml, lanes: some.sum { |track| track["inputs"].size }, rate: @take["rate"], bits: bits)
      end

      # @param bits [Integer] of a sample in the exported files
      # @return [Hash{String=>String}] other files by name: manifest, and markers if there are any
      def lists(bits: self.bits)
        found = { Formats::TakeManifest::FILE => Formats::TakeManifest.dump(manifest.merge("bits" => bits)) }
        return found if markers.empty?

        found.merge("markers.mid" => Formats::Markers.midi(markers, @take["rate"]), "markers.csv" => Formats::Markers.csv(markers, @take["rate"]))
      end

      private

      # A file of somebody else's, without the broadcast extension.
      def plain
        Formats::Bext.new(description: @take["name"], originator: "Loomshuttle", reference: @take["id"].delete("-")[0, 32], date: @take["started_at"][0, 10],
                          time: @take["started_at"][11, 8], time_reference: 0, history: "")
      end

      # What reaches into the part is cut to it. What stands at its end belongs to what follows, unless nothing does.
      def moved(marker)
        last = marker.at + marker.frames
        return if marker.at > to || (marker.at == to && to < @take["frames"]) || last < from || (marker.frames.positive? && last == from)

        at = [marker.at, from].max
        marker.with(at: at - from, frames: [last, to].min - at)
      end

      # No overview and no place on the disk it came from.
      def manifest
        @take.slice("format", "id", "number", "name", "notes", "project", "rate", "bits", "started_at")
          .merge("frames" => to - from, "from" => from, "note" => note, "markers" => markers.map(&:to_h), "gaps" => gaps, "breaks" => breaks,
                 "tracks" => @tracks.map { |track| track.except("rests").merge("file" => file(track), "frames" => to - from) })
      end

      # Times in it count from the start of the whole take.
      def note = @take["note"] && (from.zero? && to == @take["frames"] ? @take["note"] : "Of the whole take: #{@take['note']}")

      def breaks = @take.fetch("breaks", []).filter_map { |one| one.merge("at" => one["at"] - from) if one["at"].between?(from, to - 1) }

      def gaps
        @take["gaps"].to_a.filter_map do |gap|
          at, last = [gap["at"], from].max, [gap["at"] + gap["frames"], to].min
          gap.merge("at" => at - from, "frames" => last - at) if last > at
        end
      end
    end
  end
end
