# frozen_string_literal: true

require "time"

module Loomshuttle
  module Web
    # Who hears what, in the terms of the API (schemas Hearing, HearingWay).
    class PresentHearing
      # @param seen [WhoHears::Seen]
      def initialize(seen)
        @seen = seen
        @survey = seen.survey
        @show = @survey.show
      end

      # Figures are arrays: a row per source, a column per listener.
      def to_h
        figures = @survey.sources.each_index.map { |source| @survey.listeners.each_index.map { |listener| @survey.figure_at(source, listener) } }
        { version: @seen.version, levels: levels, sources: @survey.sources.map { |one| source(one) }, listeners: listeners,
          db: figures.map { |row| row.map { |figure| decibels(figure) } }, ms: figures.map { |row| row.map { |figure| figure.ms&.round(2) } },
          ways: figures.map { |row| row.map(&:ways) }, wishes: wishes }
      end

      # @return [Hash] the loudest path from one source to one listener
      # @raise [Invalid] if there is no such source or listener
      def way(source, listener)
        figure = @survey.figure(source, listener) or
          raise Invalid.new("There is no source #{Text.readable(source, most: 40)} or no listener #{listener} any more.", where: "source")
        { source: source, listener: listener, db: decibels(figure), ms: figure.ms&.round(2), ways: figure.ways,
          notches: @survey.notches(source, listener).map { |hertz| hertz.round(1) }, added_db: @survey.added_db(source, listener)&.then { |db| db.round(1) + 0.0 },
          hops: Hearing::Way.hops(@survey, source, listener).map { |hop| hop_hash(hop) } }
      end

      # @return [Array<Hash>] a row for each source and listener, for bin/loomshuttle and the papers
      def rows
        wished = Hearing::Wishes.of(@survey).group_by { |result| [result.source, result.listener] }.transform_values { |list| list.all?(&:kept) ? "kept" : "broken" }
        @survey.sources.product(@survey.listeners).map do |source, listener|
          figure = @survey.figure(source.id, listener.number)
          { source: source.title, listener: listener.title, db: decibels(figure), ms: figure.ms&.round(2), ways: figure.ways, wish: wished[[source.id, listener.number]] }
        end
      end

      # @return [Hash] the levels at which channels are sent to a mix
      # @raise [Invalid] if there is no such mix
      def sends(bus)
        rows = Hearing::SendPage.of(@survey, bus)
        leader = Signal::Mix.new(@show).leader(bus)
        { bus: leader, title: @show.label(@show.buses[leader].point), levels: levels, sends: rows.map { |row| row.to_h.merge(tap_label: Rig::Label::TAPS.fetch(row.tap, "")) } }
      end

      # @return [Array<Hash>] each wish for each of its sources and listeners
      def wishes
        Hearing::Wishes.of(@survey).map do |result|
          { number: result.wish.number, words: Hearing::Wishes.words(result.wish), source: result.source, source_title: @survey.source(result.source).title,
            listener: result.listener, listener_title: @survey.listener(result.listener).title, db: decibels(result.figure), kept: result.kept }
        end
      end

      private

      def levels = { from: @seen.from, sheet: @seen.sheet&.dig(:id), name: @seen.sheet&.dig(:name), at: @seen.sheet&.dig(:at)&.iso8601 }
      def source(one) = { id: one.id, title: one.title, number: one.number, dye: one.dye, cue: one.cue }
      def decibels(figure) = figure.heard&.then { |value| value.round(1) + 0.0 }

      def listeners
        @survey.listeners.map do |one|
          { number: one.number, title: one.title, kind: one.kind, outlets: one.ears.map { |points| points.map { |point| Rig::Label.for(point) } } }
        end
      end

      def hop_hash(hop)
        told = hop.hop
        { point: told.point, label: told.label, text: told.text, db: finite(hop.db), total_db: finite(hop.total_db), delay_ms: ms(told.delay), total_delay_ms: ms(told.total_delay),
          setting: hop.setting, value: hop.value, value_words: hop.value && Hearing::LevelNames.words(@show, hop.value) }
      end

      def finite(value) = value&.finite? ? value.round(1) : nil
      def ms(samples) = Timing::Latency.ms(samples, @show.rate).round(2)
    end
  end
end
