# frozen_string_literal: true

module Loomshuttle
  module Steps
    # Patches a range of outputs, or of personal-mix lanes, in order: buses 3 to 6 to outputs 9 to 12, main left and right to 15 and 16, or nothing
    # to all of them.
    module OutputRange
      WORDS = { "output" => "outputs", "personal" => "personal mixes" }.freeze

      # @param show [Settings::Show]
      # @param kind ["output", "personal"]   @param first [Integer] number   @param count [Integer]
      # @param source [String] point that the first one carries; "" for nothing
      # @return [Settings::Edit]
      # @raise [Invalid] if the desk does not have that many outputs or sources
      def self.edit(show, first:, count:, source:, kind: "output")
        lines = { "output" => show.outputs, "personal" => show.personal_lanes }.fetch(kind)
        numbers = (first...(first + count)).to_a
        beyond = numbers.empty? || !lines.key?(numbers.first) || !lines.key?(numbers.last)
        raise Invalid.new("The #{show.profile.name} has #{WORDS.fetch(kind)} 1 to #{lines.size}, not #{first} to #{first + count - 1}.", where: "first") if beyond

        sources = source.empty? ? [nil] * count : run(show, Rig::Point.of(source), count)
        settings = numbers.zip(sources).to_h { |number, point| ["#{kind}/#{number}/source", point&.name] }
        Settings::Edit.set(label(show, kind, numbers, sources), PersonalTaps.settings(show, settings))
      end

      class << self
        private

        def run(show, from, count)
          known = show.profile.known(:output_points).to_a
          sources = known.select { |point| point.device == from.device && point.kind == from.kind }.drop_while { |point| point != from }.first(count)
          return sources if sources.size == count

          raise Invalid.new("There are not #{count} sources from #{Rig::Label.for(from)} on that an output of the #{show.profile.name} could carry.", where: "source")
        end

        def label(show, kind, numbers, sources)
          what = sources.compact.map { |point| show.label(point) }.values_at(0, -1).compact.uniq.join(" to ")
          "#{WORDS.fetch(kind).capitalize} #{[numbers.first, numbers.last].uniq.join(' to ')}: #{what.empty? ? 'nothing' : what}"
        end
      end
    end
  end
end
