# frozen_string_literal: true

require "socket"
require "fileutils"
require "json"

module Loomshuttle
  module StandIns
    module Desk
      # The desk as a process. One thread does everything, a step each 10 ms: drain control requests, drain card
      # returns, run the unit. When the machine is too busy the desk's clock waits instead of running after; whoever
      # follows its timestamps never notices. In the workshop (docs/desk-control.md) it can be made to lose packets, to
      # restart and to stand in another rig.
      class Server
        # Packets of one socket in a step.
        MOST = 2000

        # @param profiles [String] folder of the profiles
        # @param first_rig [String] rig file for a desk that has none yet
        # @param osc_port [Integer]
        # @param sends_port [Integer] first UDP port for card sends
        # @param returns_port [Integer] first UDP port for card returns
        # @param cables_port [Integer, nil] first UDP port for the playback interface's outputs   @param clock_port [Integer, nil] UDP port to which the word clock is sent
        # @param card_clock_port [Integer, nil] UDP port of another program on this computer that plays to the card and needs its clock
        # @param folder [String] for card-sends.sdp, card-returns.sdp and the desk's memory
        # @param first_memory [String, nil] settings for a desk in its first rig that has no memory yet
        # @param cautious [Boolean] whether to start in the first rig and without memory, because it has crashed repeatedly
        # @param host [String] address that all its sockets are bound to
        # @param slow [Integer] slows its clock by this factor, for tests of screens: audio then costs less, and followers of the clock do not notice
        def initialize(profiles:, first_rig:, osc_port:, sends_port:, returns_port:, folder:, first_memory: nil, seed: 9, cautious: false, host: "127.0.0.1",
                       cables_port: nil, clock_port: nil, card_clock_port: nil, slow: 1)
          @host, @slow, @round = host, slow, 0
          @session = Random.rand(1 << 31)
          @rig_file, @first_rig = File.join(folder, "rig.json"), first_rig
          @profiles = profiles
          @loss = 0
          @random = Random.new(seed)
          FileUtils.mkdir_p(folder)
          aside, memory = Runtime::Aside.new(folder), File.join(folder, "desk.json")
          [@rig_file, memory].each { |path| aside.put(path, "The desk ended again and again.") } if cautious
          model = read_model(aside, first_rig)
          @control = udp(osc_port)
          @out = udp(0)
          @unit = Unit.new(model, ports: { sends: sends_port, returns: returns_port, cables: cables_port.to_i }, session: @session, seed: seed,
                                  card: method(:send_card), reply: method(:reply), now: Runtime::Clock.method(:now), workshop: method(:workshop))
          open_card
          plug(model, cables_port, clock_port, card_clock_port)
          @memory = Memory.new(memory, @unit.settings, first: (first_memory unless File.exist?(@rig_file)), aside: aside)
          write_descriptions(folder)
        end

        # Runs until stop.
        def run
          steps = StepClock.new(Unit::BLOCK / @unit.model.rate.to_f, Runtime::Clock.now)
          until @stopped
            step
            wait(steps)
          end
          @memory&.save
        end

        def stop = @stopped = true

        private

        def read_model(aside, first_rig)
          aside.read(@rig_file) { |rig| Model.new(rig, @profiles) } || Model.new(Runtime::Files.read_json(first_rig), @profiles)
        end

        # What surprises the desk costs it a step at most.
        def step
          drain(@control) { |bytes, peer| @unit.control.receive(bytes, peer) unless lost? }
          return unless ((@round += 1) % @slow).zero?

          @returns.each_with_index { |socket, index| socket.drain(MOST) { |arrived| @unit.card_in.push(index, arrived) } }
          @cables.each_with_index { |socket, index| socket.drain(MOST) { |arrived| @unit.cables.push(index, arrived) } }
          @unit.step
          tell_clock
          @memory&.keep(Runtime::Clock.now)
        rescue StandardError => e
          Runtime::Health.trouble(e, "a step")
        end

        def open_card
          @sends = @unit.send_streams.map { |stream| Runtime::PacketSender.new(stream.host, stream.port) }
          @returns = packets(@unit.return_streams)
        end

        # What stands beside it: cables that came undone are not plugged, and hinder nothing else.
        def plug(model, cables_port, clock_port, card_clock_port)
          @cables = cables_port ? packets(@unit.cables.streams) : []
          @clock, @card_clock = [clock_port, card_clock_port].map { |port| port && Socket.sockaddr_in(port, @host) }
          @unit.cable(model.cables)
        rescue Invalid => e
          Runtime::Log.now.warn(e.message)
        end

        def tell_clock
          tell_time(@clock, WordClock.pack(@unit.time, @unit.model.rate)) if @clock
          tell_time(@card_clock, Formats::Rtp.pack(sequence: @round, timestamp: @unit.time, source: @session, payload: "\0\0\0")) if @card_clock
        end

        def tell_time(target, bytes)
          @out.send(bytes, 0, target)
        rescue SystemCallError
          nil # nobody follows it
        end

        def packets(streams)
          streams.map { |stream| taken(stream.port) { Runtime::PacketSocket.new(@host, stream.port, stream.lanes * Audio::Pcm24::BYTES) } }
        end

        def udp(port) = taken(port) { control_socket(port) }

        # @raise [Invalid] where the port is taken
        def taken(port)
          yield
        rescue Errno::EADDRINUSE
          raise Invalid.new("UDP port #{port} is in use; start with another --port.", where: "port #{port}")
        end

        def control_socket(port)
          socket = UDPSocket.new
          socket.setsockopt(Socket::SOL_SOCKET, Socket::SO_RCVBUF, 4 << 20)
          socket.bind(@host, port)
          socket
        end

        # So many at once, that no flood keeps the desk from its next step.
        def drain(socket)
          MOST.times do
            bytes, from = socket.recvfrom_nonblock(65_536, exception: false)
            return if bytes == :wait_readable || bytes.nil?

            yield bytes, [from[3], from[1]]
          end
        end

        # Millisecond by millisecond, as a real card does: who listens waits a few milliseconds for streams that are behind, and no longer. Whether
        # anybody listens there a real card would not know either.
        def send_card(index, bytes) = @sends[index].send(bytes)

        # @raise [Settings::Refused]
        def workshop(word, value)
          case word
          when "loss" then @loss = percent(value)
          when "restart" then stop
          when "rig" then stand_in(value)
          when "stage" then on_stage(value)
          when "cables" then cable(value)
          when "changeover" then change_back(value)
          else raise Settings::Refused, "the workshop knows loss, restart, rig, stage, cables and changeover"
          end
          value
        end

        def on_stage(words)
          word, socket = words.to_s.split
          raise Settings::Refused, "on stage there are #{Stage::PlayersOnStage::WORDS.join(', ')} with a socket" unless Stage::PlayersOnStage::WORDS.include?(word) && socket
          raise Settings::Refused, "nobody plays into #{socket}" unless @unit.happen(word, socket)
        end

        # Cables are plugged by hand, while everything goes on; the rig file keeps them.
        def cable(text)
          plan = RigFile::CABLES.check(JSON.parse(text.to_s, max_nesting: 4), "cables")
          @unit.cable(plan)
          rig = Runtime::Files.read_json(File.exist?(@rig_file) ? @rig_file : @first_rig)
          Runtime::Files.replace(@rig_file, JSON.generate(rig.merge("cables" => plan)))
        rescue JSON::ParserError, Invalid, SystemCallError => e
          raise Settings::Refused, "no cables: #{Text.readable(e.message.lines.first.to_s.strip)}"
        end

        # Pressed at the interface, which stands beside the desk.
        def change_back(word)
          raise Settings::Refused, "a changeover goes back" unless word == "back" && @clock

          @out.send(WordClock::BACK, 0, @clock)
        end

        def percent(value)
          raise Settings::Refused, "loss is a whole number of percent, 0 to 90" unless value.is_a?(Integer) && value.between?(0, 90)

          value
        end

        # Another rig from the next start on, which follows at once.
        def stand_in(text)
          Model.new(JSON.parse(text.to_s, max_nesting: 16), @profiles)
          Runtime::Files.replace(@rig_file, text)
          FileUtils.rm_f(@memory.path)
          @memory = nil
          stop
        rescue StandardError => e # whatever it is, it is not a rig
          raise Settings::Refused, "no rig: #{Text.readable(e.message.lines.first.to_s.strip)}"
        end

        def lost? = @loss.positive? && @random.rand(100) < @loss

        def reply(peer, bytes)
          return if lost?

          @control.send(bytes, 0, peer[0], peer[1])
        rescue SystemCallError
          nil # the asker has gone
        end

        def wait(steps)
          ahead = steps.due - Runtime::Clock.now
          sleep(ahead) if ahead.positive?
          steps.begin(Runtime::Clock.now)
        end

        def write_descriptions(folder)
          @unit.descriptions(@session).each { |which, text| File.write(File.join(folder, "card-#{which}.sdp"), text) }
        end
      end
    end
  end
end
