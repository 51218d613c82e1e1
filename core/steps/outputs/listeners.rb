# frozen_string_literal: true

module Loomshuttle
  module Steps
    # Suggests listeners from the rig and the bus names: main is the PA, and each other mix with a socket has a listener. Outputs that already have
    # one are skipped.
    class Listeners
      # By words in a bus' name (common practice, no published source).
      KINDS = { "broadcast" => /\b(?:broadcast|stream|radio|tv|press|feed)\b/i, "machine" => /\b(?:record|recorder|camera|effect|fx|reverb|delay)\b/i,
                "area" => /\b(?:pa|hall|foh|fills?|subs?|balcony|tower|lobby|zone)\b/i }.freeze
      DRUM_FILL = /\bdrum/i
      EARS = /\A(?:ears?|in-ears?|iem)\s+/i

      # @param show [Settings::Show]
      # @return [Settings::Edit]
      # @raise [Invalid] if every output already has its listener
      def self.edit(show) = new(show).edit

      def initialize(show)
        @show = show
        @heard = show.listeners.values.flat_map(&:outlets)
        @carriers = (show.outputs.values + show.personal_lanes.values).select(&:source).group_by(&:source)
          .transform_values { |items| items.map { |item| item.point.name } }
      end

      def edit
        found = [main, *buses, *matrices, personal].compact.reject { |one| one[:hears].empty? || (one[:hears] + one[:hears_right]).intersect?(@heard) }
        raise Invalid.new("Every output already has a listener.", where: "listener/order") if found.empty?

        keys = @show.listeners.keys
        added = found.each.with_index(keys.max.to_i + 1).to_h { |one, key| [key, one] }
        settings = { "listener/order" => keys + added.keys }
        added.each { |key, one| one.each { |field, value| settings["listener/#{key}/#{field}"] = value unless value.respond_to?(:empty?) && value.empty? } }
        Settings::Edit.set("Suggest #{found.size} listener#{'s' if found.size > 1}", settings)
      end

      private

      def listener(name, kind, hears, hears_right = []) = { name: name, kind: kind, hears: hears, hears_right: hears_right }
      def carriers(base) = @carriers.fetch(base, []) & outputs
      def outputs = @outputs ||= @show.outputs.values.map { |output| output.point.name }

      def main = listener("PA", "area", *%w[l r].map { |side| carriers(Rig::Point.main(side)) })

      # Pairs are one listener's; a bus without a name may be anything.
      def buses
        @show.buses.values.reject { |bus| bus.name.empty? || @show.buses[bus.number - 1]&.paired }.map do |bus|
          right = bus.paired ? carriers(Rig::Point.desk("bus", bus.number + 1)) : []
          listener(bus.name.sub(EARS, ""), kind(bus.name), carriers(bus.point), right)
        end
      end

      def kind(name)
        return "person" if DRUM_FILL.match?(name)

        KINDS.find { |_, words| words.match?(name) }&.first || "person"
      end

      def matrices = (1..@show.profile.matrices).map { |number| listener("Matrix #{number}", "area", carriers(Rig::Point.desk("matrix", number))) }

      # A player at a personal mixer hears a mix of all its lanes.
      def personal
        lanes = @show.personal_lanes.values.select(&:source).map { |lane| lane.point.name }
        listener("Personal mixers", "machine", lanes)
      end
    end
  end
end
