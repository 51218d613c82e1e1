# frozen_string_literal: true

module Loomshuttle
  module Settings
    # Who hears what leaves the desk.
    #   kind         a person, an area of the PA, a broadcast, a machine
    #   hears        outputs and personal mixes; of who hears left and right, those on the left     hears_right  those on the right, or none
    #   x, y         metres from the middle of the stage's front edge, to the right as the audience sees it and into the audience; nil: not known
    Listener = declare("listener", :listeners, :list, key: :number,
                                                      words: ->(show, key) { show.listeners[key]&.title || "Listener #{key}" }) do
      setting :name, Kinds.text(NAME), blank: ""
      setting :kind, Kinds.one_of("person", "area", "broadcast", "machine"), blank: "person", words: "type"
      setting :hears, RoomKinds.heard, blank: [].freeze, words: "outputs", nothing: "nothing"
      setting :hears_right, RoomKinds.heard, blank: [].freeze, words: "right outputs", nothing: "the same"
      setting :x, RoomKinds.metres, blank: nil, words: "position right of centre", unit: "m"
      setting :y, RoomKinds.metres, blank: nil, words: "distance from stage", unit: "m"
    end

    class Listener
      # @return [String] the name, or its number where it has none
      def title = name.empty? ? "Listener #{number}" : name

      # @return [Array<Array<Rig::Point>>] what each ear hears; one list for mono
      def ears = [hears, hears_right].reject(&:empty?).map { |names| names.map { |one| Rig::Point.of(one) } }

      # @return [Array<String>] names of all outputs and personal mixes that the listener hears
      def outlets = hears + hears_right

      # @return [Array(Numeric, Numeric), nil] position in metres; nil if unknown
      def place = x && y && [x, y]
    end
  end
end
