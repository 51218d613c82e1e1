# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module StandIns
    module Desk
      # Analogue cables from a playback interface to sockets, instead of the players there. The sound comes as RTP from the interface's process;
      # full scale there is full scale here at 0 dB of gain.
      class Cables
        # Outputs that may be cabled: two streams.
        MOST = 16

        # @param model [Model]   @param port [Integer] first UDP port of the lanes
        def initialize(model, port: 0)
          @model = model
          @streams = (1..MOST).each_slice(8).with_index.map do |slice, index|
            Formats::Sdp::Stream.new(host: "127.0.0.1", port: port + (2 * index), lanes: 8, first: slice.first, rate: model.rate, payload_type: Formats::Rtp::PAYLOAD_TYPE)
          end
          @in = @streams.map { |stream| LanesIn.new([stream]) }
          @plan, @places = {}, {}
        end

        attr_reader :streams, :plan

        # @param plan [Hash{String=>String}] output => the desk's name for the socket
        # @raise [Invalid] if there is no such socket, or one is used twice
        def plan=(plan)
          places = plan.to_h do |output, socket|
            at = @model.sockets.index(socket) or raise Invalid.new("The desk has no socket #{Text.readable(socket, most: 40)}.", where: "cables")
            known = output.to_s.match?(/\A\d+\z/) && output.to_i.between?(1, MOST)
            raise Invalid.new("The interface has no output #{Text.readable(output, most: 40)}.", where: "cables") unless known

            [output.to_i - 1, at]
          end
          raise Invalid.new("Two outputs are cabled to one socket.", where: "cables") unless places.values.uniq.size == places.size

          @places = places.group_by { |lane, _| lane / 8 }.transform_values { |list| list.map { |lane, socket| [lane % 8, socket] } }
          @plan = plan
        end

        # @param bytes [String] an RTP packet of the interface
        def push(index, bytes) = (@in[index].push(0, bytes) if @places.key?(index))

        # @return [Array<Numo::Int32>] [frames, lanes] of each cabled stream, from LanesIn#read
        def read(time, frames) = @places.each_key.map { |stream| @in[stream].read(time, frames) }

        # @param stage [Numo::DFloat] [frames, sockets] of the players, overwritten   @param blocks [Array<Numo::Int32>] from read
        # @return [Numo::DFloat]
        def plug(stage, blocks)
          @places.each_value.zip(blocks) do |places, lanes|
            places.each { |lane, socket| stage[true, socket] = Audio::Pcm24.to_float(lanes[true, lane]) }
          end
          stage
        end
      end
    end
  end
end
