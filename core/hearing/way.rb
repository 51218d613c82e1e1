# frozen_string_literal: true

module Loomshuttle
  module Hearing
    # The way by which a listener hears most of a source, from the socket to where it leaves the desk, for people.
    module Way
      # hop: Signal::Story's; db: gain here, nil before the source counts; total_db: since then
      # value: the level at the desk that decides here, or nil; setting: path in the plan that makes it, or nil
      Hop = Value.define(:hop, :db, :total_db, :value, :setting)

      class << self
        # @param survey [Survey]   @param source [String]   @param listener [Integer]
        # @return [Array<Rig::Point>] its main points: what is between the taps of a channel or a mix is left out; empty for silence
        def points(survey, source, listener)
          joins = joins(survey, source, listener)
          return [] if joins.empty?

          all = [joins.first.from, *joins.map(&:to)]
          all.chunk_while { |one, next_one| one.base == next_one.base }.map(&:last)
        end

        # @return [Array<Signal::Join>] from the socket on, where that is known
        def joins(survey, source, listener)
          inside = survey.loudest(source, listener)
          inside.empty? ? [] : before(survey, inside.first.from) + inside + behind(survey, inside.last.to)
        end

        # @return [Array<Hop>] hop by hop; none for silence
        def hops(survey, source, listener)
          joins = joins(survey, source, listener)
          return [] if joins.empty?

          mix, names = Signal::Mix.new(survey.show), Signal::LevelSlots.of(survey.show.profile).names
          told = Signal::Story.new(survey.show, survey.graph, survey.levels).of_joins(joins)
          inside = joins.index { |join| join.from == survey.loudest(source, listener).first.from }
          preamp = told[inside].total_gain_db
          told.each_with_index.map { |hop, at| hop(hop, at.zero? ? nil : joins[at - 1], at <= inside ? nil : preamp, mix, names) }
        end

        private

        def hop(told, join, preamp, mix, names)
          slot = join&.level && names[join.level]
          Hop.new(hop: told, db: preamp && told.gain_db, total_db: preamp && told.total_gain_db && (told.total_gain_db - preamp),
                  value: slot && SlotWords.value(slot, mix), setting: told.setting || (slot && SlotWords.setting(slot, mix)))
        end

        # From the socket to the channel: one join at each point but where two channels hear one socket.
        def before(survey, entry)
          way = []
          point = entry
          while (join = survey.graph.into(point).find { |one| one.live && one.kind != :file && !one.from.track? && !one.from.channel? }) && way.size < 8
            way.unshift(join)
            point = join.from
          end
          way
        end

        def behind(survey, outlet)
          out = survey.graph.from(outlet).select(&:live).min_by { |join| join.delay + survey.graph.from(join.to).map(&:delay).min.to_i } or return []
          further = survey.graph.from(out.to).find(&:live)
          [out, *further]
        end
      end
    end
  end
end
