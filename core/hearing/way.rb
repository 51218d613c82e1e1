# frozen_string_literal: true

module Loomshuttle
  module Hearing
    # The loudest path from a source to a listener, from the socket to the output, for people.
    module Way
      # hop: Signal::Story's; db: gain here, nil before the source counts; total_db: since then
      # value: the level at the desk that decides here, or nil; setting: path in the plan that makes it, or nil
      Hop = Value.define(:hop, :db, :total_db, :value, :setting)

      class << self
        # @param survey [Survey]   @param source [String]   @param listener [Integer]
        # @return [Array<Rig::Point>] main points of the loudest path, without those between the taps of a channel or mix; empty for silence
        def points(survey, source, listener)
          joins = parts(survey, source, listener).flatten(1)
          return [] if joins.empty?

          all = [joins.first.from, *joins.map(&:to)]
          all.chunk_while { |one, next_one| one.base == next_one.base }.map(&:last)
        end

        # @return [Array<Hop>] the same path hop by hop; empty for silence
        def hops(survey, source, listener)
          before, inside, behind = parts(survey, source, listener)
          return [] if inside.empty?

          told = Signal::Story.new(survey.show, survey.graph, survey.levels).of_joins(before + inside + behind)
          preamp = told[before.size].total_gain_db
          mix, names = Signal::Mix.new(survey.show), Signal::LevelSlots.of(survey.show.profile).names
          told.zip([nil, *before, *inside, *behind]).each_with_index.map { |(hop, join), at| hop(hop, join, at <= before.size ? nil : preamp, mix, names) }
        end

        private

        # @return [Array<Array<Signal::Join>>] up to the desk, through it, and out of it; all empty for silence
        def parts(survey, source, listener)
          inside = survey.loudest(source, listener)
          inside.empty? ? [[], [], []] : [before(survey, inside.first.from), inside, behind(survey, inside.last.to)]
        end

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
          [out, survey.graph.from(out.to).find(&:live)].compact
        end
      end
    end
  end
end
