# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module StandIns
    module Interface
      # A whole playback interface without sockets or a clock: told to run one block, it puts out what the computers have sent for that time,
      # and tells them how far its clock is. The process below it and the tests' virtual clock both drive this.
      class Unit
        # Frames of one step: 5 ms at 48 kHz.
        BLOCK = 240
        # Frames of a packet on its cables, which are not a network.
        PACKET = 240

        attr_reader :time, :inputs, :model, :last, :changeover

        # @param model [Model]
        # @param streams [Array<Array<Formats::Sdp::Stream>>] of each computer's lanes
        # @param cables [Array<Formats::Sdp::Stream>] that carry its outputs to the desk, `late` frames later
        # @param late [Integer]
        # @param out [Proc] called with cable stream index and RTP bytes
        # @param clock [Proc] called with computer and RTP bytes: the time, and the sum of its outputs
        def initialize(model, streams:, cables:, out:, clock:, late: 960, session: 1)
          @model, @late = model, late
          @inputs = streams.map { |list| LanesIn.new(list) }
          @cables = Formats::RtpOut.new(cables, packet: PACKET, session: session, sparing: true, &out)
          @clock = clock
          @session = session
          @sequence = 0
          @changeover = Changeover.new([model.outputs - 1, 0].max, model.computers)
          @time = 0
        end

        # Sets its counter from the word clock.
        def at(time)
          @time = time
        end

        # Runs BLOCK frames.
        def step
          blocks = @inputs.map { |input| input.read(@time, BLOCK) }
          put_out(blocks[@changeover.look(blocks)])
          @cables.write(@last, @time + @late) unless @silent
          @time += BLOCK
          tell_clock
        end

        # @return [Integer] late packets of the computer that is heard
        def late = @inputs[@changeover.heard].late

        private

        # A block that repeats, such as silence or a steady pilot, gives the same output.
        def put_out(block)
          return if block.equal?(@put_out)

          @put_out, @last = block, heard_of(block).freeze
          @silent = @last.eq(0).all?
          @sum = @silent ? NOTHING : sum_of_outputs
        end

        # What this mode has no output for is not heard; a narrow one has the upper bits.
        def heard_of(block)
          if @model.outputs < block.shape[1]
            rows = block.transpose.dup
            rows[@model.outputs..-1, true] = 0
            block = rows.transpose
          end
          @model.bits < 24 ? (block >> (24 - @model.bits)) << (24 - @model.bits) : block
        end

        def tell_clock
          word = Formats::Rtp.pack(sequence: @sequence, timestamp: @time, source: @session, payload: @sum)
          @inputs.each_index { |computer| @clock.call(computer, word) }
          @sequence = (@sequence + 1) % Formats::Rtp::SEQUENCES
        end

        NOTHING = ("\0" * (BLOCK * Audio::Pcm24::BYTES)).b.freeze
        private_constant :NOTHING

        def sum_of_outputs
          Audio::Pcm24.to_network(Numo::Int32.cast(@last.transpose.sum(axis: 0).clip(-Audio::Pcm24::FULL_SCALE, Audio::Pcm24::FULL_SCALE - 1)))
        end
      end
    end
  end
end
