# frozen_string_literal: true

module Loomshuttle
  module Steps
    # Adds sources to the next capture that would be missed.
    module CaptureAll
      class << self
        # @param show [Settings::Show]   @param lefts [Array<Signal::Uncaptured::Left>] of one kind
        # @return [Settings::Edit, nil] captures them; nil if impossible
        def edit(show, lefts)
          return if lefts.empty?

          settings = lefts.first.kind == "not-armed" ? armed(lefts) : patched(show, lefts)
          settings = wider(show, lefts) if settings.empty?
          Completed.edit(show, label(lefts, settings), settings) unless settings.empty?
        end

        private

        def armed(lefts) = lefts.to_h { |left| ["track/#{left.point.number}/armed", true] }

        def patched(show, lefts)
          return {} if lefts.first.kind == "beyond-card"

          AutoPatch.ways(show, lefts.filter_map(&:channel).uniq)
        end

        # Another mode of the card, with as many lanes as are asked for, where it is lanes that lack.
        def wider(show, lefts)
          return {} unless lefts.first.full

          lanes = show.card_lanes + lefts.size
          lanes = [lanes, *lefts.map { |left| left.point.number }].max if lefts.first.kind == "beyond-card"
          mode, wide = show.profile.card_modes.select { |_, most| most > show.card_lanes }.min_by { |_, most| [most < lanes ? 1 : 0, most] }
          wide ? { "setup/card_mode" => mode } : {}
        end

        def label(lefts, settings)
          return "Set the card to #{settings['setup/card_mode']}" if settings.key?("setup/card_mode")

          "#{lefts.first.kind == 'not-armed' ? 'Arm' : 'Capture'} #{lefts.size == 1 ? lefts.first.title : "#{lefts.size} sources"}"
        end
      end
    end
  end
end
