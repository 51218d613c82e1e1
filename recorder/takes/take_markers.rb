# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # Markers and sections of a take, in its manifest and in its files.
    module TakeMarkers
      LONGEST = 80
      MOST = Formats::TakeManifest::MARKERS

      # @param data [Array<Hash>] at, frames (absent or 0 for a point) and name, as in the manifest and in JSON-RPC
      # @param length [Integer, nil] frames of the take; nil while it grows
      # @return [Array<Formats::Markers::Marker>] in order
      # @raise [Invalid] says which one does not fit
      def self.parse(data, length = nil)
        raise Invalid.new("markers must be a list", where: "markers") unless data.is_a?(Array)
        raise Invalid.new("a take has #{MOST} markers at most, not #{data.size}", where: "markers") if data.size > MOST

        data.each.with_index(1).map { |one, n| marker(one, n, length) }.sort_by { |one| [one.at, one.name] }
      end

      # @return [Array<Hash>] as stored in the manifest
      def self.data(markers) = markers.map { |one| { "at" => one.at, "frames" => one.frames, "name" => one.name } }

      # Writes a Standard MIDI File and a CSV beside the audio; without markers, removes them.
      def self.write_lists(folder, name, markers, rate)
        lists = { "mid" => Formats::Markers.method(:midi), "csv" => Formats::Markers.method(:csv) }
        lists.each do |kind, make|
          path = File.join(folder, "#{Formats::FileNames.safe(name)} markers.#{kind}")
          Runtime::Files.matching(folder, "* markers.#{kind}").each { |old| File.delete(old) }
          Runtime::Files.write(path, make.call(markers, rate)) unless markers.empty?
        end
      end

      def self.marker(one, number, length)
        at, frames, name = one.is_a?(Hash) ? [one["at"], one["frames"] || 0, one["name"]] : []
        fits = at.is_a?(Integer) && frames.is_a?(Integer) && name.is_a?(String) && [at, frames].all? { |one| Formats::TakeManifest::FRAMES.cover?(one) }
        raise Invalid.new("marker #{number} needs at and frames as whole numbers, and a name", where: "markers") unless fits

        clean = Text.keep(name, "marker #{number}", most: 400, lines: false).strip
        raise Invalid.new("marker #{number} needs a name of 1 to #{LONGEST} characters", where: "markers") unless clean.length.between?(1, LONGEST)
        raise Invalid.new("marker #{number}, #{clean}, lies behind the end of the take", where: "markers") if length && at + frames > length

        Formats::Markers::Marker.new(at: at, frames: frames, name: clean)
      end
      private_class_method :marker
    end
  end
end
