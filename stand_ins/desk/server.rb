# frozen_string_literal: true

require "socket"
require "fileutils"

module Loomshuttle
  module StandIns
    module Desk
      # The desk as a process. One thread does everything, a step each 10 ms: drain control requests, drain card
      # returns, run the unit. When the machine is too busy the desk's clock waits instead of running after; whoever
      # follows its timestamps never notices.
      class Server
        # @param osc_port [Integer]
        # @param sends_port [Integer] first UDP port that card sends go to
        # @param returns_port [Integer] first UDP port that card returns come in on
        # @param folder [String] for card-sends.sdp, card-returns.sdp and the desk's memory
        # @param first_memory [String, nil] settings of a desk that has no memory yet
        def initialize(profile:, osc_port:, sends_port:, returns_port:, folder:, first_memory: nil, seed: 9)
          @session = Random.rand(1 << 31)
          @control = udp(osc_port)
          @out = UDPSocket.new
          @unit = Unit.new(profile, ports: { sends: sends_port, returns: returns_port }, session: @session, seed: seed,
                                    card: method(:send_card), reply: method(:reply), now: method(:seconds))
          @targets = @unit.send_streams.map { |stream| Socket.sockaddr_in(stream.port, stream.host) }
          @returns = @unit.return_streams.map { |stream| udp(stream.port) }
          FileUtils.mkdir_p(folder)
          @memory = Memory.new(File.join(folder, "desk.json"), @unit.settings, first: first_memory)
          write_descriptions(folder)
        end

        # Runs until stop.
        def run
          due = seconds
          until @stopped
            drain(@control) { |bytes, peer| @unit.control.receive(bytes, peer) }
            @returns.each_with_index { |socket, index| drain(socket) { |bytes, _| @unit.card_in.push(index, bytes) } }
            @unit.step
            @memory.keep(seconds)
            due = wait(due + (Unit::BLOCK / @unit.model.rate.to_f))
          end
          @memory.save
        end

        def stop = @stopped = true

        private

        def udp(port)
          socket = UDPSocket.new
          socket.setsockopt(Socket::SOL_SOCKET, Socket::SO_RCVBUF, 4 << 20)
          socket.bind("127.0.0.1", port)
          socket
        rescue Errno::EADDRINUSE
          raise Invalid.new("UDP port #{port} is in use; start with another --port.", where: "port #{port}")
        end

        def drain(socket)
          loop do
            bytes, from = socket.recvfrom_nonblock(65_536, exception: false)
            return if bytes == :wait_readable || bytes.nil?

            yield bytes, [from[3], from[1]]
          end
        end

        def send_card(index, bytes)
          @out.send(bytes, 0, @targets[index])
        rescue Errno::ECONNREFUSED, Errno::ENOBUFS
          nil # nobody listens there yet; a real card would not know either
        end

        def reply(peer, bytes)
          @control.send(bytes, 0, peer[0], peer[1])
        rescue SystemCallError
          nil # the asker has gone
        end

        # A late step is caught up with slowly: whoever answers with card returns keeps most of a step's time for it.
        def wait(due)
          due = [due, @stepped + (0.8 * Unit::BLOCK / @unit.model.rate)].max if @stepped
          ahead = due - seconds
          sleep(ahead) if ahead.positive?
          @stepped = seconds
          ahead.positive? ? due : @stepped
        end

        def seconds = Process.clock_gettime(Process::CLOCK_MONOTONIC)

        def write_descriptions(folder)
          @unit.descriptions(@session).each { |which, text| File.write(File.join(folder, "card-#{which}.sdp"), text) }
        end
      end
    end
  end
end
