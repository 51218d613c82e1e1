# frozen_string_literal: true

require "socket"

module Loomshuttle
  module Player
    # The player as a process. Its threads:
    #   main     hears the clock of where it plays, makes what sounds next and sends it; waits for nothing else
    #   reader   reads songs ahead
    #   opener   opens songs (Opener)
    #   control  accepts on the Unix socket; threads of each caller (Runtime::Caller)
    #   watch    tells how it goes on
    #   foot     hears a foot switch
    #   twin     tells a second player where it is; threads of Leader and Follower
    class Server
      # @param home [String] folder of this instance: songs/, player.json, player.sock
      # @param clock [Integer] UDP port of the interface's clock   @param lanes [Integer] first port of its lanes
      # @param card_clock [Integer, nil] UDP port of the card's clock that the clock of the desk's card comes in on, whose returns are described in the home folder
      # @param rate [Integer]   @param outputs [Integer]
      # @param cautious [Boolean] whether to start without its configuration, because it has crashed repeatedly
      # @param twin [Integer, nil] TCP port for a second player that follows   @param foot [Integer, nil] UDP port for a foot switch that sends OSC
      def initialize(home:, clock:, lanes:, card_clock: nil, twin: nil, foot: nil, rate: 48_000, outputs: 16, host: "127.0.0.1", cautious: false)
        aside, file = Runtime::Aside.new(home), File.join(home, "player.json")
        aside.put(file, "The player ended again and again.") if cautious
        @ways = WaysOut.new(host: host, rate: rate, outputs: outputs, interface: [clock, lanes], card_clock: card_clock, description: File.join(home, "card-returns.sdp"))
        library, @config = SongReader.new(File.join(home, "songs"), rate), Config.new(file, aside)
        @unit = Unit.new(rate: rate, streams: @ways.streams, library: library, config: @config, outputs: outputs, now: Runtime::Clock.method(:now),
                         &@ways.method(:send))
        leave
        @unit.sound = -> { @ways.sound&.status }
        @turning = Mutex.new # held for moments, while the way out becomes another one
        @unit.before_play = method(:turn)
        @unit.cut = @ways.method(:cut)
        turn
        pair(host, twin, library)
        listen_to_foot(foot)
        @control = Runtime::CallServer.new(File.join(home, "player.sock"), Requests::ALL) { |caller| Methods.for(@unit, caller) }
        @unit.on_meters = ->(levels) { @control.tell("meters", levels) }
        @unit.on_state = -> { @control.tell("state", @unit.status) }
      end

      # Runs until stop.
      def run
        Runtime::Priority.first
        workers = [Runtime::Worker.start("reader", priority: Runtime::Worker::PATIENT) { |worker| worker.rest(@unit.fill ? 0.001 : 0.05) },
                   Runtime::Worker.start("watch") { |worker| worker.rest(1) || watch }, Runtime::Worker.start("twin") { |worker| worker.rest(Twin::OFTEN) || tell_twin }]
        @unit.opener.start
        @control.start
        @leader&.start
        @foot.start
        hear
      ensure
        workers&.each(&:stop)
        @unit.opener.stop
        @foot.stop
        @follower.stop
        @leader&.close
        @control.close
        @ways.close
      end

      def stop = @stopped = true

      private

      def pair(host, port, library)
        digest = -> { @digest ||= Twin.digest(@config, library) }
        @follower = Follower.new(@unit, digest: digest)
        @leader = Leader.new(host, port, code: -> { @config["code"] }, digest: digest) if port
        @unit.leader, @unit.follower = @leader, @follower
        @fresh = -> { @digest = Twin.digest(@config, library) }
      end

      def listen_to_foot(port)
        @foot = FootSwitch.new(@unit, @config, now: Runtime::Clock.method(:now), port: port, from: ENV.fetch("LOOMSHUTTLE_FOOT", "").split(","),
                                               devices: ENV.fetch("LOOMSHUTTLE_MIDI", "").split(":"))
        @unit.foot = @foot
      end

      def watch
        turn
        @fresh.call if @leader&.count.to_i.positive? || @config["follow"]
        @control.tell("status", @unit.status)
      end

      # Called by the watch and before playing, but never during it.
      def turn
        @turning.synchronize do
          @ways.let_go
          leave if !@unit.deck.playing? && @ways.use(@config["returns"], @config.sound)
        end
      end

      # A sound card takes silence as well, and millisecond by millisecond.
      def leave
        network = @ways.sound.nil?
        @unit.leave_by(@ways.streams, sparing: network, together: network)
      end

      # Whom it follows may have changed; who follows it hears how it is.
      def tell_twin
        @follower.follow(@following = @config["follow"]) unless @following == @config["follow"]
        @unit.tell_state(@digest || @fresh.call) if @leader&.count.to_i.positive?
      end

      # A packet that surprises us is one packet.
      def hear
        until @stopped
          begin
            @ways.hear(0.2) { |bytes| @unit.hear(bytes) }
          rescue StandardError => e
            Runtime::Health.trouble(e, "playing")
            sleep(0.001)
          end
        end
      end
    end
  end
end
