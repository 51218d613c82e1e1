# frozen_string_literal: true

module Loomshuttle
  module Settings
    # A mono or stereo track of the recorder. inputs are card sends, outputs card returns; each list is empty or has
    # one lane (mono) or two (stereo, left first). A name of "" and a colour of nil are its source's. shares names a group
    # of tracks that are meant to share a return; "" is none. A show has 32 at least: some play several to one return.
    Track = declare("track", :tracks, :desk, key: :number, keys: ->(desk) { 1..[desk.sends, 32].max },
                                             words: ->(show, key) { ["Track #{key}", show.tracks[key] && show.title_of(show.tracks[key])].compact.uniq.join(" ") }) do
      stereo = Kinds.boolean.also do |value, at|
        next value if [at.item.inputs, at.item.outputs].all? { |lanes| [0, value ? 2 : 1].include?(lanes.size) }

        Kinds.refuse("its input and output lanes must change with it; set them in the same edit, emptied first")
      end

      setting :name, Kinds.text(NAME), blank: "", part: "names"
      setting :colour, Kinds.one_of(*DYES).or_none, blank: nil, words: "dye", part: "names"
      setting :stereo, stereo, blank: false, part: "sends", capture: :way
      setting :inputs, Kinds.lanes { |at| [at.item.width, at.show.profile.sends] }, blank: [].freeze, words: "card sends", part: "sends", capture: :way
      setting :outputs, Kinds.lanes { |at| [at.item.width, at.show.profile.returns] }, blank: [].freeze, words: "card returns", part: "returns"
      setting :armed, Kinds.boolean, blank: false, part: "sends"
      setting :shares, Kinds.text(NAME), blank: "", words: "return group", part: "returns"
    end

    class Track
      def width = stereo ? 2 : 1

      def used? = !inputs.empty? || !outputs.empty?

      # @return [Boolean] whether nothing is planned for it
      def free? = !used? && !armed && name.empty?

      # @param way ["in", "out"]
      # @return [Array<Rig::Point>] its points, one per lane
      def points(way) = stereo ? Rig::Point::SIDES.map { |side| Rig::Point.track(number, way, side) } : [Rig::Point.track(number, way)]
    end
  end
end
