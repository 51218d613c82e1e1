# frozen_string_literal: true

module Loomshuttle
  module Hearing
    # Who hears what in a show with a known mix: all sources and listeners, with level, delay and number of paths. When a fader moves, a new survey
    # is derived from this one, and only what lies behind the fader is computed.
    #
    #   survey = Survey.of(show, "channel/1/fader" => -4, "channel/1/send/1" => -9, …)
    #   survey.figure("channel/1", 2)            # listener 2 hears bus 1: db −9.0, ms 2.0, ways 1
    #   survey.turned("channel/1/fader" => -10, …)  # the same show after a fader moved
    class Survey
      # Below this level, relative to the source, a source counts as not heard (dB).
      NOTHING_DB = -80
      # How one listener hears one source: level relative to the source in dB, first arrival in ms (both nil for silence), and number of paths.
      Figure = Value.define(:db, :ms, :ways) do
        # @return [Float, nil] dB; nil below the threshold of hearing (NOTHING_DB)
        def heard = db && db >= NOTHING_DB ? db : nil
      end

      attr_reader :show, :graph, :levels, :values, :sources, :listeners, :board

      # @param show [Settings::Show]   @param values [Hash{String=>Object}] levels read from the desk (Signal::MixedLevels)
      # @param graph [Signal::Graph] of the show
      # @return [Survey]
      def self.of(show, values, graph = Signal.build(show))
        sources = Sources.of(show, graph)
        levels = Signal::Levels.mixed(show, values)
        board = Board.of(graph, levels, sources.flat_map { |one| one.source.entries.map(&:point) }.uniq)
        listeners = show.listeners.values
        heard = Heard.new(board, sources.map(&:source), listeners.map { |one| Listener.new(id: one.number, ears: one.ears) })
        new(show, graph, [values, levels], [sources, listeners], board, heard)
      end

      # @param mixed [Array(Hash, Signal::Levels)] levels as read, and as computed from them   @param who [Array(Array, Array)] sources and listeners
      def initialize(show, graph, mixed, who, board, heard)
        @show, @graph, @board, @heard = show, graph, board, heard
        @values, @levels = mixed
        @sources, @listeners = who
        @places = @sources.each.with_index.to_h { |one, at| [one.id, at] }
        @seats = @listeners.each.with_index.to_h { |one, at| [one.number, at] }
        freeze
      end

      # @param values [Hash{String=>Object}] levels as the desk has them now
      # @return [Survey] itself if nothing changed
      def turned(values)
        changed = values.reject { |name, value| @values[name] == value }.keys | (@values.keys - values.keys)
        return self if changed.empty?

        levels = @levels.turned(@show, values, changed)
        board = @board.with(levels)
        Survey.new(@show, @graph, [values, levels], [@sources, @listeners], board, board.equal?(@board) ? @heard : @heard.with(board))
      end

      # @param id [String] of a source
      # @return [Sources::Named, nil]
      def source(id) = @places[id]&.then { |at| @sources[at] }

      # @return [Settings::Listener, nil]
      def listener(number) = @seats[number]&.then { |at| @listeners[at] }

      # @return [Array(Array<Rig::Point>, Array<Rig::Point>)] what a listener hears on the left and on the right; the same twice for mono
      # @raise [Invalid] when there is no such listener
      def sides(number)
        ears = listener(number)&.ears or raise Invalid.new("There is no listener #{number} any more.", where: "listener")
        Array.new(2) { |side| ears[side] || ears.first || [] }
      end

      # @param source [String]   @param listener [Integer]
      # @return [Figure, nil] nil if there is no such source or listener
      def figure(source, listener)
        at, to = @places[source], @seats[listener]
        figure_at(at, to) if at && to
      end

      # @param source [Integer] place in `sources`   @param listener [Integer] place in `listeners`   @return [Figure]
      def figure_at(source, listener)
        db = @heard.decibels(source, listener)
        return Figure.new(db: nil, ms: nil, ways: 0) unless db

        late = Timing::Latency.ms(@heard.delays[source, listener], @show.rate)
        Figure.new(db: db - (10 * Math.log10(@sources[source].width)), ms: late, ways: @heard.counts[source, listener].to_i)
      end

      # @return [Array<Float>] notches in Hz if a source reaches an ear twice at different times, else empty
      def notches(source, listener)
        both = @heard.arrivals(@places.fetch(source), @seats.fetch(listener)).find { |list| list.size > 1 } or return []
        loudest = both.max_by(2) { |_, amplitude| amplitude.abs }.map(&:first)
        Comb.notches(loudest.reduce(:-), @show.rate)
      end

      # What further paths of the same length add in the ear where the source is loudest. Paths inside a desk are of the same length, so they make no comb.
      # @return [Float, nil] dB over the loudest path alone: 6 for two equal ones, below 0 where they are of opposite polarity; nil for a single path
      def added_db(source, listener)
        entries = self.source(source).source.entries
        ears = self.listener(listener).ears.map { |points| points.product(entries) }
        together = ears.flat_map { |ways| ways.group_by { |point, entry| @board.delay(point) + entry.delay }.values }
        sum, ways = together.map { |same| [same.sum { |point, entry| @board.amplitude(point, entry.point) }.abs, same] }.max_by(&:first)
        return if sum.to_f.zero? || ways.sum { |point, entry| @board.count(point, entry.point) } < 2

        20 * Math.log10(sum / ways.map { |point, entry| @board.alone(point, entry.point) }.max)
      end

      # @param source [String]   @param listener [Integer]
      # @return [Array<Signal::Join>] the loudest path, from where the source enters the desk to what the listener hears
      def loudest(source, listener)
        entries = self.source(source).source.entries.map(&:point)
        point, entry = self.listener(listener).ears.flatten.product(entries).max_by { |to, from| @board.amplitude(to, from).abs }
        point && entry ? @board.loudest(point, entry) : []
      end
    end
  end
end
