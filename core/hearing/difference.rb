# frozen_string_literal: true

module Loomshuttle
  module Hearing
    # What becomes louder or softer for whom, between two surveys.
    module Difference
      # Less than this many dB is none.
      LEAST = 0.5

      # source, listener: their titles; from, to: dB, or nil for silence
      Change = Value.define(:source, :listener, :from, :to)

      # @param before [Survey]   @param after [Survey]
      # @return [Array<Change>] sources that appear or vanish first, then by size of the change
      def self.between(before, after)
        sources = before.sources.map(&:id) | after.sources.map(&:id)
        seats = before.listeners.map(&:number) & after.listeners.map(&:number)
        sources.product(seats).filter_map { |source, listener| change(before, after, source, listener) }.sort_by.with_index { |one, at| [-size(one), at] }
      end

      class << self
        private

        def change(before, after, source, listener)
          from, to = [before, after].map { |survey| survey.figure(source, listener)&.heard }
          return if from == to || (from && to && (from - to).abs < LEAST)

          title = (after.source(source) || before.source(source)).title
          Change.new(source: title, listener: after.listener(listener).title, from: from&.round(1), to: to&.round(1))
        end

        def size(one) = one.from && one.to ? (one.to - one.from).abs : 1000 + (one.from || one.to)
      end
    end
  end
end
