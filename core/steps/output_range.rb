# frozen_string_literal: true

module Loomshuttle
  module Steps
    # Outputs one behind the other carry sources one behind the other: buses 3 to 6 on outputs 9 to 12, main left and right on 15 and 16, or
    # nothing on all of them.
    module OutputRange
      # @param show [Settings::Show]
      # @param first [Integer] output   @param count [Integer]
      # @param source [String] what the first one carries, by its point; "" for nothing
      # @return [Settings::Edit]
      # @raise [Invalid] when the desk has not so many outputs or sources
      def self.edit(show, first:, count:, source:)
        numbers = (first...(first + count)).to_a
        beyond = numbers.empty? || !show.outputs.key?(numbers.first) || !show.outputs.key?(numbers.last)
        raise Invalid.new("The #{show.profile.name} has outputs 1 to #{show.outputs.size}, not #{first} to #{first + count - 1}.", where: "first") if beyond

        sources = source.empty? ? [nil] * count : run(show, Rig::Point.of(source), count)
        Settings::Edit.set(label(show, numbers, sources), numbers.zip(sources).to_h { |number, point| ["output/#{number}/source", point&.name] })
      end

      class << self
        private

        def run(show, from, count)
          known = show.profile.known(:output_points).to_a
          sources = known.select { |point| point.device == from.device && point.kind == from.kind }.drop_while { |point| point != from }.first(count)
          return sources if sources.size == count

          raise Invalid.new("There are not #{count} sources from #{Rig::Label.for(from)} on that an output of the #{show.profile.name} could carry.", where: "source")
        end

        def label(show, numbers, sources)
          what = sources.compact.map { |point| show.label(point) }.values_at(0, -1).compact.uniq.join(" to ")
          "#{numbers.size > 1 ? "Outputs #{numbers.first} to #{numbers.last}" : "Output #{numbers.first}"}: #{what.empty? ? 'nothing' : what}"
        end
      end
    end
  end
end
