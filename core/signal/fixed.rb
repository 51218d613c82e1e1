# frozen_string_literal: true

module Loomshuttle
  module Signal
    # The joins that a kind of desk is built with: the taps of each channel in order, and the ways into its mixes. They are the
    # same for every show on it, and most of all joins, so they are made once for a profile and shared.
    module Fixed
      # @param desk [Rig::Desk]
      # @return [Graph]
      def self.of(desk) = desk.memo(:fixed_joins) { Graph.new(joins(desk)) }

      # @param mix [Mix, nil] levels where they are known; without them the gain of these joins is nil
      # @return [Array<Join>]
      def self.joins(desk, mix: nil) = new_list(desk, mix).flatten

      class << self
        private

        def new_list(desk, mix)
          strips = desk.strips.flat_map { |strip| desk.channel_points(strip.number).map { |base| strip(base, mix) + mixes(desk, base, strip, mix) } }
          strips + matrices(desk, mix) + desk.mix_points.map { |base| join("#{base}@pre-fader", "#{base}@post-fader", gain_db: mix && 0) }
        end

        def join(from, to, gain_db: 0, kind: :desk) = Join.new(from: from, to: to, gain_db: gain_db, delay: 0, setting: nil, kind: kind, live: true)

        # Equaliser and fader are the mix's, so their gain is not the plan's to know.
        def strip(base, mix)
          [join("#{base}@channel-in", "#{base}@pre-eq"), join("#{base}@pre-eq", "#{base}@post-eq", gain_db: mix && 0), join("#{base}@post-eq", "#{base}@pre-fader"),
           join("#{base}@pre-fader", "#{base}@post-fader", gain_db: mix&.fader(base))]
        end

        def mixes(desk, base, strip, mix)
          desk.mix_points.reject { |point| point.start_with?("desk/matrix/") }.map do |point|
            tap = point.start_with?("desk/bus/") ? "pre-fader" : "post-fader"
            join("#{base}@#{tap}", "#{point}@pre-fader", kind: :mix, gain_db: mix&.level(base, point, strip.width))
          end
        end

        # Matrices carry the main mix, as they do before anybody sets them otherwise.
        def matrices(desk, mix)
          (1..desk.matrices).flat_map do |number|
            desk.mains.map { |side| join("desk/main/#{side}@post-fader", "desk/matrix/#{number}@pre-fader", kind: :mix, gain_db: mix && Mix::CENTRE_DB) }
          end
        end
      end
    end
  end
end
