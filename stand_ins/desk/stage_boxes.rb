# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module StandIns
    module Desk
      # The time that stage boxes take, each way: what comes in at their sockets reaches the desk later, and what leaves the desk their sockets.
      class StageBoxes
        # @param model [Model]
        def initialize(model)
          @slow = model.boxes.select { |box| box.delay.positive? }
          @lines = @slow.to_h { |box| [box, DelayLine.new(box.delay, box.inputs)] }
          @delays = @slow.flat_map { |box| (1..box.outputs).map { |n| ["#{box.port}.#{box.place}/#{n}", box.delay] } }.to_h
        end

        # @param stage [Numo::DFloat] [frames, sockets] as they are played
        # @return [Numo::DFloat] as they reach the desk
        def arrive(stage)
          return stage if @slow.empty?

          stage = stage.dup
          @slow.each do |box|
            lanes = box.first_socket...(box.first_socket + box.inputs)
            stage[true, lanes] = @lines[box].pass(stage[true, lanes], box.delay)
          end
          stage
        end

        # @param socket [String]   @param before [Numo::DFloat, nil] what was put out in the block before   @param now [Numo::DFloat]
        # @return [Numo::DFloat] what comes out there now
        def leave(socket, before, now)
          delay = @delays.fetch(socket, 0)
          return now if delay.zero?

          (before || Numo::DFloat.zeros(now.size))[-delay..].concatenate(now[0...-delay])
        end
      end
    end
  end
end
