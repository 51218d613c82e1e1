# frozen_string_literal: true

module Loomshuttle
  module Settings
    # A track without its own name or dye has those of its source.
    module Inherited
      # @return [String]
      def self.title(show, track)
        return track.name unless track.name.empty?

        name = source_name(show, track)
        name && !name.empty? ? name : "Track #{track.number}"
      end

      # @return [String]
      def self.dye(show, track) = track.colour || channels(show, track).first&.colour || "iron"

      class << self
        private

        def sources(show, track) = track.inputs.filter_map { |lane| show.sends[lane]&.source }

        def channels(show, track) = sources(show, track).filter_map { |source| show.channel_at(source) }.uniq

        # Of a pair, what both names begin with ("Accordion L" and "Accordion R" are the accordion).
        def source_name(show, track)
          names = channels(show, track).map(&:name).uniq
          return names.first if names.size == 1
          return common(names) if names.size == 2

          mixes = sources(show, track).select(&:mix?).map(&:kind).uniq
          mixes == ["main"] ? "Main mix" : sources(show, track).first&.then { |source| show.label(source) }
        end

        def common(names)
          first, second = names.map(&:chars)
          shared = first.zip(second).take_while { |one, other| one == other }.map(&:first).join
          shared.strip.length > 2 ? shared.sub(%r{[\s(_\-./]*\z}, "") : names.join(" and ")[0, NAME]
        end
      end
    end
  end
end
