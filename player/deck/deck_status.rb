# frozen_string_literal: true

module Loomshuttle
  module Player
    # A deck's status for people.
    module DeckStatus
      class << self
        # @param deck [Deck]   @param walk [Songs::Walk, nil]   @param gain [Gain]   @param held [Integer, nil] sample at which it was stopped
        # @return [Hash]
        def of(deck, walk, gain, held)
          common = { "state" => state(deck, gain), "next" => deck.following&.song&.name, "missed" => deck.missed, "waiting" => deck.waiting, "pause_left" => deck.pause_left }
          return common.merge("item" => nil, "song" => nil, "name" => nil, "troubles" => []) unless deck.loaded

          common.merge(about(deck.loaded), place(deck, walk, held))
        end

        private

        def about(loaded)
          { "item" => loaded.item, "song" => loaded.song.id, "name" => loaded.song.name, "troubles" => loaded.material.troubles }
        end

        def state(deck, gain)
          deck.state == :falling && gain.why == :fade ? "fading" : { falling: "stopping" }.fetch(deck.state, deck.state.to_s)
        end

        def place(deck, walk, held)
          song = deck.loaded.song
          position = deck.playing? ? walk.position : held || song.lead
          bar, beat = song.place(position)
          { "position" => position, "frames" => song.frames, "rate" => song.rate, "bar" => bar.floor, "beat" => beat.floor,
            "section" => song.section_at(position).key }.merge(deck.playing? ? walking(walk) : { "left" => nil })
        end

        def walking(walk)
          asked = walk.asked
          { "section" => walk.pass.section.key, "nth" => walk.pass.nth, "of" => walk.pass.of, "around" => walk.around, "rounds" => walk.rounds, "left" => walk.left,
            "after" => walk.after && walk.passes[walk.after.pass].section.key,
            "asked" => asked && { "kind" => asked.kind, "edge" => asked.edge, "section" => asked.place && walk.passes[asked.place.pass].section.key } }
        end
      end
    end
  end
end
