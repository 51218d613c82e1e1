# frozen_string_literal: true

module Loomshuttle
  module Songs
    # One lane of a source on its way to an output.
    #   source   a stem's id, "click", "guide", "pilot" or "timecode"     lane   0: left or mono, 1: right
    #   output   number, from 1     gain   amplitude
    Feed = Value.define(:source, :lane, :output, :gain)

    class Feed
      # A mono stem goes to both of two outputs 3 dB lower (common practice, no published source).
      CENTRE_DB = -10 * Math.log10(2)

      class << self
        # Routes the parts of a song to outputs. A part without an output is left out.
        # @param song [Song]   @param roles [Array<Role>]
        # @return [Array<Feed>]
        def of(song, roles)
          by_name = roles.to_h { |role| [role.name, role] }
          beds = roles.select { |role| Role::CUES.include?(role.kind) }.flat_map(&:outputs).uniq
          stems = song.stems.reject(&:mute).flat_map { |stem| of_stem(song, stem, by_name[stem.role], beds) }
          stems + roles.reject { |role| role.kind == "parts" }.flat_map { |role| of_made(song, role) }
        end

        # @param song [Song]   @param roles [Array<Role>]
        # @return [Array<String>] roles of a song, including click and guide, that have no output
        def homeless(song, roles)
          outputs = roles.to_h { |role| [role.name, role.outputs] }
          song.stems.map(&:role).uniq.select { |role| outputs.fetch(role, []).empty? }
        end

        private

        def of_stem(song, stem, role, beds)
          return [] unless role

          gain = stem.gain_db + song.trim_db + role.gain_db
          spread(stem.id, stem.lanes, role.outputs, gain, role) + (role.bed_db ? beds.flat_map { |output| spread(stem.id, stem.lanes, [output], gain + role.bed_db, role) } : [])
        end

        def of_made(song, role)
          own = level_of(song, role.kind) or return []

          role.outputs.map { |output| new(source: role.kind, lane: 0, output: output, gain: Role.amplitude(own + role.gain_db)) }
        end

        def level_of(song, kind)
          case kind
          when "click" then song.click.level_db if song.click.on && song.click.stem.nil?
          when "guide" then song.guide.level_db if song.guide.on
          else 0
          end
        end

        def spread(source, lanes, outputs, decibels, role)
          return [] if outputs.empty?
          return outputs.each_with_index.map { |output, side| feed(source, side, output, decibels) } if lanes == 2 && outputs.size == 2
          return [0, 1].map { |side| feed(source, side, outputs.first, decibels + role.sum_db) } if lanes == 2

          outputs.map { |output| feed(source, 0, output, decibels + (outputs.size == 2 ? CENTRE_DB : 0)) }
        end

        def feed(source, lane, output, decibels) = new(source: source, lane: lane, output: output, gain: Role.amplitude(decibels))
      end
    end
  end
end
