# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module Hearing
    # The level and delay of every source for every listener, all paths summed. Paths of equal delay add as signed amplitudes; paths of different
    # delay, and the two ears, add as powers. Arrays [sources, listeners]:
    #   powers   against the source's own power, 0 for silence      delays   samples until the first of it, NaN for silence
    #   counts   ways that carry something
    class Heard
      attr_reader :powers, :delays, :counts

      # @param board [Board]   @param sources [Array<Source>]   @param listeners [Array<Listener>]
      def initialize(board, sources, listeners)
        @board, @sources, @listeners = board, sources, listeners
        @powers, @delays, @counts = Array.new(3) { Numo::DFloat.zeros(sources.size, listeners.size) }
        @delays.fill(Float::NAN)
        @simple, @others = sources.each_index.partition { |at| sources[at].entries.size == 1 && board.column(sources[at].entries.first.point) }
        @columns = Numo::Int32[*@simple.map { |at| board.column(sources[at].entries.first.point) }]
        @late = Numo::DFloat[*@simple.map { |at| sources[at].entries.first.delay }]
        listeners.each_index { |at| listen(at) }
      end

      # @param board [Board] made from this one's
      # @return [Heard] on that board; recomputes only listeners for whom something changed
      def with(board) = dup.tap { |heard| heard.turn_to(board) }

      # @return [Float, nil] dB relative to the source; nil for silence
      def decibels(source, listener) = @powers[source, listener].then { |power| 10 * Math.log10(power) if power.positive? }

      # @return [Array<Array(Integer, Float)>] for each ear: [delay in samples, amplitude] of each arrival time, earliest first
      def arrivals(source, listener)
        @listeners[listener].ears.map do |points|
          each_way(@sources[source], points).group_by(&:first).transform_values { |list| list.sum(&:last) }
            .reject { |_, amplitude| amplitude.zero? }.sort
        end
      end

      protected

      def turn_to(board)
        @board = board
        @powers, @delays, @counts = @powers.dup, @delays.dup, @counts.dup
        @listeners.each_index { |at| listen(at) if @listeners[at].ears.flatten.any? { |point| board.changed?(point) } }
      end

      private

      def listen(listener)
        together(@simple, listener)
        @others.each { |source| alone(source, listener) }
      end

      # Sources that enter at one place, as one array.
      def together(simple, listener)
        return if simple.empty?

        power, first, count = Array.new(3) { Numo::DFloat.zeros(simple.size) }
        first.fill(Float::INFINITY)
        @listeners[listener].ears.each do |points|
          points.group_by { |point| @board.delay(point) }.each do |delay, same|
            rows = same.filter_map { |point| @board.row(point) }
            next if rows.empty?

            sum = rows.reduce(:+)[@columns]
            power += sum**2
            first = Numo::DFloat.minimum(first, delay + (Numo::DFloat.cast(sum.eq(0)) * 1e12))
            same.filter_map { |point| @board.counts(point) }.each { |counts| count += counts[@columns] }
          end
        end
        put(simple, listener, power, first + @late, count)
      end

      def put(simple, listener, power, first, count)
        first[power.eq(0)] = Float::NAN
        places = Numo::Int32[*simple]
        @powers[places, listener] = power
        @delays[places, listener] = first
        @counts[places, listener] = count
      end

      # A source that enters at several places, at several times.
      def alone(source, listener)
        sums = arrivals(source, listener).flatten(1)
        @powers[source, listener] = sums.sum { |_, amplitude| amplitude**2 }
        @delays[source, listener] = sums.map(&:first).min || Float::NAN
        @counts[source, listener] = @listeners[listener].ears.flatten.product(@sources[source].entries).sum { |point, entry| @board.count(point, entry.point) }
      end

      # @return [Array<Array(Integer, Float)>] delay and amplitude
      def each_way(source, points) = points.product(source.entries).map { |point, entry| [@board.delay(point) + entry.delay, @board.amplitude(point, entry.point)] }
    end
  end
end
