# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module StandIns
    module Desk
      # The latency of stage boxes in both directions.
      class StageBoxes
        # @param model [Model]
        def initialize(model)
          slow = model.boxes.select { |box| box.delay.positive? }
          # Neighbours that are as slow go together.
          @runs = slow.slice_when { |one, other| one.delay != other.delay || one.first_socket + one.inputs != other.first_socket }
            .map { |boxes| [boxes.first.first_socket...(boxes.last.first_socket + boxes.last.inputs), boxes.first.delay] }
          @tails = @runs.map { |lanes, delay| Numo::DFloat.zeros(lanes.size, delay) }
          @delays = slow.flat_map { |box| (1..box.outputs).map { |n| ["#{box.port}.#{box.place}/#{n}", box.delay] } }.to_h
        end

        # @param stage [Numo::DFloat] [sockets, frames] as played
        # @return [Numo::DFloat] as they reach the desk
        def arrive(stage)
          return stage if @runs.empty?

          late = stage.dup
          @runs.each_with_index do |(lanes, delay), run|
            late[lanes, 0...delay] = @tails[run]
            late[lanes, delay..-1] = stage[lanes, 0...-delay]
            @tails[run] = stage[lanes, -delay..-1].dup
          end
          late
        end

        # @param socket [String]   @param before [Numo::DFloat, nil] output of the previous block   @param now [Numo::DFloat] of this block
        # @return [Numo::DFloat] what leaves the box in this block
        def leave(socket, before, now)
          delay = @delays.fetch(socket, 0)
          return now if delay.zero?

          (before || Numo::DFloat.zeros(now.size))[-delay..].concatenate(now[0...-delay])
        end
      end
    end
  end
end
