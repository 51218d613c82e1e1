# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module StandIns
    module Interface
      # Which of two computers is heard: the first, until its pilot has been silent for a while and the pilot of the other is there; then the other,
      # until somebody changes back.
      class Changeover
        # Below this the pilot counts as silent (full scale 2^23; -60 dBFS RMS); blocks in a row until that is trusted.
        SILENT, BLOCKS = 8_388, 2

        # @return [Integer] the computer that is heard, from 0
        attr_reader :heard

        # @param lane [Integer] of the pilot, from 0   @param computers [Integer]
        def initialize(lane, computers)
          @lane, @computers = lane, computers
          @heard, @quiet = 0, 0
          @pilots = {} # the block that was looked at last of each computer, and whether it was there
        end

        # @param blocks [Array<Numo::Int32>] [frames, lanes] of each computer; frozen
        # @return [Integer] the computer heard in this block
        def look(blocks)
          return @heard if @computers < 2

          @quiet = pilot?(@heard, blocks[@heard]) ? 0 : @quiet + 1
          turn if @quiet >= BLOCKS && pilot?(1 - @heard, blocks[1 - @heard])
          @heard
        end

        # Goes back to the first computer, whether or not it is playing.
        def back
          @heard, @quiet = 0, 0
        end

        private

        def turn
          @heard, @quiet = 1 - @heard, 0
        end

        def pilot?(computer, block)
          known, there = @pilots[computer]
          return there if block.equal?(known)

          (@pilots[computer] = [block, Audio::Pcm24.floats(block[true, @lane]).rms >= SILENT]).last
        end
      end
    end
  end
end
