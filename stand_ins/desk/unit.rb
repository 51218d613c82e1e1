# frozen_string_literal: true

module Loomshuttle
  module StandIns
    module Desk
      # A whole desk without sockets or a clock: told to run one block, it takes card returns, mixes, sends, and tells
      # its meters. The process below it and the tests' virtual clock both drive this.
      class Unit
        # Frames of one step: 10 ms at 48 kHz, and ten packets at any rate.
        BLOCK = 480

        attr_reader :settings, :control, :card_in, :time, :model, :send_streams, :return_streams, :cables

        # @param model [Model]
        # @param ports [Hash] :sends, :returns and :cables, first UDP port of each; two apart
        # @param card [Proc] called with stream index and RTP bytes
        # @param reply [Proc] called with a peer and OSC bytes
        # @param now [Proc] seconds, for subscriptions
        # @param stage [#read, nil] the players; nil for the Saltmarsh Nine, generated from the seed
        # @param workshop [Proc, nil] handles a tester's requests other than settings (see Control)
        def initialize(model, ports:, card:, reply:, now:, session: 1, seed: 9, stage: nil, workshop: nil)
          @model = model
          @settings = Settings.new(@model)
          @send_streams = streams(ports[:sends], @model.sends)
          @return_streams = streams(ports[:returns], @model.returns)
          @cables = Cables.new(@model, port: ports.fetch(:cables, 0))
          @card_in = LanesIn.new(@return_streams)
          @card_out = Formats::RtpOut.new(@send_streams, packet: @model.packet, session: session, &card)
          @mixer = Mixer.new(@model, @settings)
          @meters = Meters.new([@model.lanes, @model.mains.size, @model.mix_outputs], @model.rate)
          @stage = stage || Stage::PlayersOnStage.new(@model.sockets, rate: @model.rate, seed: seed)
          @rounds, @changes = Rounds.new(steps_of_a_round), 0
          @control = Control.new(@settings, facts: facts(session), now: now, preamps: Preamps.new(@model, @settings), workshop: workshop, &reply)
          @time = 0
        end

        # Runs BLOCK frames.
        def step
          outside = [@card_in.read(@time, BLOCK), *@cables.read(@time, BLOCK)]
          out = @rounds.look(nth, [@settings.revision, @changes, *outside])
          out ? @behind = true : out = work_out(outside)
          @card_out.put(out.payloads, BLOCK, @time)
          blob = @meters.add(BLOCK, out.levels)
          @outside = outside
          @time += BLOCK
          @control.tell_meters(blob, @time) if blob
        end

        # Output of the last step.
        # @return [Mixer::Result, nil]
        def last
          catch_up
          @last
        end

        # @return [Hash{String=>Numo::DFloat}] output of the last step at each socket in use
        def heard
          catch_up
          @mixer.at_sockets(@last, @before)
        end

        # As PlayersOnStage#happen.
        def happen(word, socket)
          catch_up
          @changes += 1
          @stage.happen(word, socket)
        end

        # As Cables#plan=.
        def cable(plan)
          catch_up
          @changes += 1
          @cables.plan = plan
        end

        # @return [Hash{String=>String}] session descriptions of the card, "sends" and "returns"
        def descriptions(session)
          { "sends" => Formats::Sdp.write("#{@model.name} card sends", @send_streams, session: session),
            "returns" => Formats::Sdp.write("#{@model.name} card returns", @return_streams, session: session) }
        end

        private

        def nth = @time / BLOCK

        def steps_of_a_round
          frames = @stage.respond_to?(:frames) ? @stage.frames : 0
          frames / BLOCK if frames.positive? && (frames % BLOCK).zero?
        end

        def work_out(outside)
          catch_up
          mix(outside, @time)
          @rounds.forget if @mixer.delays?
          @rounds.keep(nth, @card_out.pack(@last.sends), @meters.measure(@last.channels, @last.mains, @last.outputs))
        end

        def mix(outside, time, as_it_was: false)
          returns, *cables = outside
          @before, @last = @last, @mixer.process(@cables.plug(@stage.read(time, BLOCK), cables), returns, as_it_was: as_it_was)
        end

        # Brings the mixer's memory up to date after steps that were not computed, with the settings of that time. Comes before any change.
        def catch_up
          return unless @behind

          @behind = false
          Rounds::MEMORY.downto(1) { |steps| mix(@outside, @time - (steps * BLOCK), as_it_was: true) }
        end

        def streams(port, lanes)
          (1..lanes).each_slice(8).with_index.map do |slice, index|
            Formats::Sdp::Stream.new(host: "127.0.0.1", port: port + (2 * index), lanes: slice.size, first: slice.first,
                                     rate: @model.rate, payload_type: Formats::Rtp::PAYLOAD_TYPE)
          end
        end

        # Boxes on the ports, one per line: port, place, profile.
        def boxes = @model.boxes.map { |box| "#{box.port} #{box.place} #{box.kind}" }.join("\n")

        def facts(session)
          { "name" => -> { @model.name }, "profile" => -> { @model.profile }, "boxes" => -> { boxes }, "session" => -> { session }, "revision" => -> { @settings.revision },
            "clock" => -> { @time },
            "card/late" => -> { @card_in.late }, "card/sends/sdp" => -> { descriptions(session)["sends"] },
            "card/returns/sdp" => -> { descriptions(session)["returns"] } }
        end
      end
    end
  end
end
