# frozen_string_literal: true

module Loomshuttle
  module Timing
    # The times of the strokes of a click.
    class Click
      # sample: where it begins; kind: "accent", "beat" or "between" (a subdivision); bar, beat: from 1
      Stroke = Value.define(:sample, :kind, :bar, :beat)

      # Quarter notes from one subdivision to the next; nil: the beats alone.
      SUBDIVISIONS = { "beats" => nil, "quarters" => 1r, "eighths" => 1/2r, "triplets" => 1/3r, "sixteenths" => 1/4r }.freeze
      # Beats with an accent where nobody has chosen any: compound and odd times in their usual groups (common practice, no published source).
      ACCENTS = { "6/8" => [1, 4], "9/8" => [1, 4, 7], "12/8" => [1, 4, 7, 10], "5/8" => [1, 4], "7/8" => [1, 3, 5] }.freeze

      # @param map [TempoMap]
      # @param subdivision [String] a key of SUBDIVISIONS
      # @param accents [Hash{String=>Array<Integer>}] time signature => accented beats, where chosen
      # @raise [Invalid]
      def initialize(map, subdivision: "beats", accents: {})
        @map, @accents = map, accents
        @step = SUBDIVISIONS.fetch(subdivision) do
          raise Invalid.new("There is no subdivision #{Text.readable(subdivision, most: 40)}; known are #{SUBDIVISIONS.keys.join(', ')}.", where: "subdivision")
        end
        accents.each { |meter, beats| check(TempoMap.meter(meter), beats) }
      end

      # @param bars [Enumerable<Integer>] from 1
      # @return [Enumerator::Lazy<Stroke>] in order, computed on demand
      def strokes(bars) = bars.lazy.flat_map { |bar| of_bar(bar) }

      # @return [Array<Stroke>]
      def of_bar(bar)
        meter, start = @map.meter(bar), @map.bar(bar)
        places(meter).map do |place|
          beat = (place / meter.beat) + 1
          Stroke.new(sample: @map.sample(start + place), kind: kind(meter, beat), bar: bar, beat: beat)
        end
      end

      private

      # Quarter notes from the beginning of a bar: every beat and every subdivision, each once. Groups of quarters in a bar of eighths
      # begin again with each bar.
      def places(meter)
        beats = (0...meter.beats).map { |beat| meter.beat * beat }
        return beats unless @step

        between = (0...(meter.quarters / @step).ceil).map { |nth| @step * nth }
        kept = @step > meter.beat ? beats.select { |place| accented?(meter, (place / meter.beat) + 1) } : beats
        (kept | between).sort
      end

      def kind(meter, beat)
        return "between" unless beat.denominator == 1

        accented?(meter, beat) ? "accent" : "beat"
      end

      def accented?(meter, beat) = (@accents[meter.to_s] || ACCENTS.fetch(meter.to_s, [1])).include?(beat)

      def check(meter, beats)
        fits = beats.is_a?(Array) && beats.all? { |beat| beat.is_a?(Integer) && beat.between?(1, meter.beats) }
        raise Invalid.new("Accents of #{meter} are beats from 1 to #{meter.beats}.", where: "accents") unless fits
      end
    end
  end
end
