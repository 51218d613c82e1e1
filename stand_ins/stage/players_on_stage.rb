# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module StandIns
    module Stage
      # The sixteen players, rendered once and played round and round: what arrives at the desk's sockets before any
      # preamp. Deterministic from a seed.
      class PlayersOnStage
        ROUND_SECONDS = 16

        # @param sockets [Array<String>] sockets in the desk's order ("in/1", …); unknown ones are silent
        def initialize(sockets, rate: 48_000, seed: 9)
          @frames = ROUND_SECONDS * rate
          by_socket = Players::LIST.to_h { |player| [player.socket, player] }
          @sound = Numo::SFloat.zeros(sockets.size, @frames)
          sockets.each_with_index do |socket, at|
            player = by_socket[socket] or next
            @sound[at, true] = Voices.new(frames: @frames, rate: rate, seed: seed + at).render(player)
          end
        end

        # @param time [Integer] sample counter
        # @return [Numo::DFloat] [frames, sockets], full scale 1.0 at 0 dB of gain
        def read(time, frames)
          from = time % @frames
          return Numo::DFloat.cast(@sound[true, from...(from + frames)].transpose) if from + frames <= @frames

          first = @frames - from
          read(time, first).concatenate(read(0, frames - first))
        end
      end
    end
  end
end
