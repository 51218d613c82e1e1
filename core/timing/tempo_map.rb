# frozen_string_literal: true

module Loomshuttle
  module Timing
    # From bars and beats to samples and back. Places are quarter notes from the first bar, tempos quarter notes per minute, as in a Standard
    # MIDI File. Where tempos change by steps everything is computed in fractions and exact; a ramp goes evenly with the beats from one tempo to
    # the next, so that its time is a logarithm and a Float.
    class TempoMap
      # at: quarter note where it begins; bpm: quarter notes per minute; ramp: whether it goes evenly to the next one's tempo
      Tempo = Value.define(:at, :bpm, :ramp)
      # bar: number, from 1, where it begins; beats of a unit (4: quarters, 8: eighths) in a bar
      Meter = Value.define(:bar, :beats, :unit) do
        # @return [Rational] length of a bar in quarter notes
        def quarters = Rational(beats * 4, unit)
        # @return [Rational] length of a beat in quarter notes
        def beat = Rational(4, unit)
        def to_s = "#{beats}/#{unit}"
      end

      BPM, BEATS, UNITS, MOST = (20..400), (1..32), [1, 2, 4, 8, 16].freeze, 2000

      # @return [Array<Tempo>]
      attr_reader :tempos
      # @return [Array<Meter>]
      attr_reader :meters
      # @return [Integer] samples a second
      attr_reader :rate

      # @param text [String] such as "7/8"   @param bar [Integer]
      # @return [Meter]
      # @raise [Invalid]
      def self.meter(text, bar: 1)
        beats, unit = text.to_s[%r{\A\d{1,2}/\d{1,2}\z}].to_s.split("/").map(&:to_i)
        fits = beats && BEATS.cover?(beats) && UNITS.include?(unit)
        fits ? Meter.new(bar: bar, beats: beats, unit: unit) : raise(Invalid.new("A time signature reads like 7/8: 1 to 32 beats of 1, 2, 4, 8 or 16.", where: "meter"))
      end

      # One tempo and one time signature.
      # @param bpm [Numeric, String]   @param meter [String]
      # @return [TempoMap]
      # @raise [Invalid]
      def self.plain(bpm, meter, rate:) = new([Tempo.new(at: 0, bpm: bpm, ramp: false)], [self.meter(meter)], rate: rate)

      # @param tempos [Array<Tempo>]   @param meters [Array<Meter>]
      # @raise [Invalid] if they do not start at the beginning, are out of order or out of range
      def initialize(tempos, meters, rate:)
        @tempos = tempos.map { |tempo| tempo.with(at: tempo.at.to_r, bpm: exact(tempo.bpm)) }.freeze
        @meters, @rate = meters.freeze, rate
        check
        @seconds = @tempos.each_cons(2).reduce([0r]) { |all, (one, other)| all << (all.last + lasts(one, other, other.at - one.at)) }.freeze
        @bars = @meters.each_cons(2).reduce([0r]) { |all, (one, other)| all << (all.last + (one.quarters * (other.bar - one.bar))) }.freeze
        freeze
      end

      # @param quarter [Numeric]
      # @return [Rational, Float] seconds from the start; exact (Rational) if no ramp comes before
      def seconds(quarter)
        at = segment(@tempos.map(&:at), quarter)
        @seconds[at] + lasts(@tempos[at], @tempos[at + 1], quarter - @tempos[at].at)
      end

      # @return [Integer] the sample nearest to a position in quarter notes
      def sample(quarter) = (seconds(quarter) * @rate).round

      # @param sample [Numeric]
      # @return [Rational, Float] the position in quarter notes
      def quarter(sample)
        time = sample.is_a?(Integer) ? Rational(sample, @rate) : sample / @rate
        at = segment(@seconds, time)
        one, other, late = @tempos[at], @tempos[at + 1], time - @seconds[at]
        return one.at + (late * one.bpm / 60) unless ramp?(one, other)

        slope = (other.bpm - one.bpm) / (other.at - one.at)
        one.at + (one.bpm * (Math.exp((late * slope / 60).to_f) - 1) / slope)
      end

      # @param bar [Integer] from 1
      # @return [Rational] quarter notes from the start to the bar
      def bar(number)
        at = segment(@meters.map(&:bar), number)
        @bars[at] + (@meters[at].quarters * (number - @meters[at].bar))
      end

      # @return [Meter] of a bar
      def meter(number) = @meters[segment(@meters.map(&:bar), number)]

      # @param quarter [Numeric] from 0
      # @return [Array(Integer, Numeric)] bar, and beat in it, both from 1
      def place(quarter)
        at = segment(@bars, quarter)
        bars, rest = (quarter - @bars[at]).divmod(@meters[at].quarters)
        [@meters[at].bar + bars, 1 + (rest / @meters[at].beat)]
      end

      private

      # A tempo of 97.5 is 195/2, whatever a Float makes of it.
      def exact(bpm)
        bpm.is_a?(Float) ? bpm.rationalize(Rational(1, 1_000_000)) : bpm.to_s.to_r
      end

      # The last that begins at a value or before.
      def segment(starts, value) = (starts.bsearch_index { |start| start > value } || starts.size) - 1

      def ramp?(one, other) = one.ramp && other && one.bpm != other.bpm

      # @return [Rational, Float] seconds of so many quarter notes from the beginning of a tempo
      def lasts(one, other, quarters)
        return quarters * 60 / one.bpm unless ramp?(one, other)

        slope = (other.bpm - one.bpm) / (other.at - one.at)
        60 * Math.log(((one.bpm + (slope * quarters)) / one.bpm).to_f) / slope
      end

      def check
        refuse("a song has from one to #{MOST} tempos and time signatures") unless [@tempos, @meters].all? { |list| list.size.between?(1, MOST) }
        refuse("tempos go from the beginning on, each later than the one before") unless @tempos.first.at.zero? && ascending?(@tempos.map(&:at))
        refuse("time signatures go from bar 1 on, each later than the one before") unless @meters.first.bar == 1 && ascending?(@meters.map(&:bar))
        odd = @tempos.find { |tempo| !BPM.cover?(tempo.bpm) }
        refuse("a tempo is from #{BPM.min} to #{BPM.max} quarter notes per minute, not #{odd.bpm.to_f.round(2)}") if odd
      end

      def ascending?(list) = list.each_cons(2).all? { |one, other| one < other }
      def refuse(why) = raise(Invalid.new("#{why.sub(/\A./, &:upcase)}.", where: "tempo"))
    end
  end
end
