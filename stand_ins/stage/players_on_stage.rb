# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module StandIns
    module Stage
      # The players, rendered once and played round and round: what arrives at the sockets before any preamp.
      # Deterministic from a seed. They are plugged one after the other, into the boxes where there are any.
      class PlayersOnStage
        ROUND_SECONDS = 8
        # What can happen at a socket: the player falls silent or plays (again), the cable is swapped for a good one, or for one
        # that is wired the wrong way round.
        WORDS = %w[quiet sound cable turn].freeze

        # @return [Integer] frames in a round, after which everything repeats
        attr_reader :frames

        # @param sockets [Array<String>] sockets in the desk's order ("in/1", …, "a.1/1", …); the last ones stay silent
        def initialize(sockets, rate: 48_000, seed: 9)
          @frames = ROUND_SECONDS * rate
          @names = sockets
          @sockets = sockets.size
          boxed, own = sockets.each_index.partition { |at| sockets[at].include?(".") }
          @plugged = (boxed + own).first(Players::LIST.size)
          @sound = Numo::SFloat.zeros(@plugged.size, @frames)
          @helped = {}
          Players::LIST.first(@plugged.size).each_with_index do |player, at|
            voices = Voices.new(frames: @frames, rate: rate, seed: seed + at)
            @sound[at, true] = voices.render(player)
            @helped[at] = voices.render(Players::HELPED[player.name]) if Players::HELPED.key?(player.name)
          end
          @signs = Array.new(@plugged.size, 1)
        end

        # @param word [String] one of WORDS  @param socket [String] as the desk names it ("a.1/16"), or "all"
        # @return [Boolean] whether a player is there
        def happen(word, socket)
          rows = socket == "all" ? @plugged.each_index.to_a : [@plugged.index(@names.index(socket))].compact
          rows.each { |row| change(word, row) }
          rows.any?
        end

        # @param time [Integer] sample counter
        # @return [Numo::DFloat] [frames, sockets], full scale 1.0 at 0 dB of gain
        def read(time, frames)
          from = time % @frames
          return plug(@sound[true, from...(from + frames)]) if from + frames <= @frames

          first = @frames - from
          read(time, first).concatenate(read(0, frames - first))
        end

        private

        def change(word, row)
          case word
          when "quiet" then @signs[row] = 0
          when "turn" then @signs[row] = -1
          else
            @signs[row] = 1
            # A sound from who is silent, or a hum that the new cable does not have.
            @sound[row, true] = @helped.delete(row) if @helped.key?(row) && (word == "cable" || @sound[row, true].max.zero?)
          end
        end

        def plug(rows)
          out = silence(rows.shape[1]).dup
          out[@plugged, true] = rows
          @signs.each_with_index { |sign, at| out[@plugged[at], true] = sign.zero? ? 0 : rows[at, true] * sign unless sign == 1 }
          out.transpose
        end

        # Numo copies an array in a quarter of the time that it takes to fill one.
        def silence(frames) = @silence&.shape&.last == frames ? @silence : @silence = Numo::DFloat.zeros(@sockets, frames)
      end
    end
  end
end
