# frozen_string_literal: true

module Loomshuttle
  module Web
    # Recordings as somebody has arranged them from scanned files. Only files that the scan found can be used.
    class Arrangement
      # @param sounds [Array<Delivery::Sound>] found by the inspection   @param show [Settings::Show]
      def initialize(sounds, show)
        @sounds = sounds.to_h { |sound| [sound.path, sound] }
        @show = show
      end

      # @param choices [Array<Hash>] "pieces" (lists of one source, or of left and right: "file", "lane"), "track" (or nil) and "offset" (samples)
      # @return [Array<Delivery::Plan::Item>]
      # @raise [Invalid]
      def items(choices)
        Delivery::Plan.new(@show).arranged(choices.map { |choice| [recording(choice["pieces"]), track(choice["track"]), choice["offset"]] })
      end

      private

      def track(number)
        raise Invalid.new("The show has no track #{number}.", where: "items") if number && !@show.tracks.key?(number)

        number
      end

      def recording(pieces)
        raise Invalid.new("A recording has one file at least.", where: "items") if pieces.empty?

        Delivery::Recording.arranged(pieces.map { |piece| piece(piece) })
      end

      def piece(given)
        sources = given.map { |source| source(source) }
        raise Invalid.new("A part is one file, or left and right.", where: "items") unless [1, 2].include?(sources.size)

        wide = sources.size == 2 && sources.find { |source| source.lanes > 1 }
        raise Invalid.new("#{wide.sound.file} has #{wide.lanes} channels; left and right are one each. Split it first.", where: "items") if wide

        sources
      end

      def source(given)
        sound = @sounds[given["file"]]
        raise Invalid.new("The files have changed; scan them again.", where: "items") unless sound && File.file?(sound.path)
        raise Invalid.new("#{sound.file} has no channel #{given['lane'] + 1}.", where: "items") if given["lane"] && given["lane"] >= sound.lanes

        Delivery::Source.new(sound: sound, lane: given["lane"])
      end
    end
  end
end
