# frozen_string_literal: true

require "socket"

module Loomshuttle
  module StandIns
    module Interface
      # The interface as a process. One thread does everything: it takes what the computers send and steps with the desk's word clock,
      # or on its own without one. It ends when another interface stands in the rig, to be started as that one.
      class Server
        # Datagrams of one socket at a time, and the largest.
        MOST, LARGEST = 200, 4096
        LOOK = 2
        # Lanes of a computer, and of the cables, however many outputs there are.
        LANES = 16

        # @param ports [Hash] :clock (word clock in), :lanes (of each computer, first port), :tell (of each computer), :cables; streams are two apart
        # @param folder [String] in which the desk keeps rig.json   @param first_rig [String] rig file if there is none
        def initialize(profiles:, first_rig:, folder:, ports:, host: "127.0.0.1")
          @profiles, @first_rig, @rig_file, @host = profiles, first_rig, File.join(folder, "rig.json"), host
          @model = known_model
          @word = udp(ports[:clock])
          @streams = ports[:lanes].first(@model.computers).map { |port| streams(port, host) }
          @computers = @streams.zip(ports[:tell]).map { |list, port| Computer.new(host, port, list.map { |stream| packets(stream) }) }
          cables = streams(ports[:cables], host)
          @cables = cables.map { |stream| Runtime::PacketSender.new(host, stream.port) }
          @unit = Unit.new(@model, streams: @streams, cables: cables, session: Random.rand(1 << 31),
                                   out: ->(index, bytes) { @cables[index].send(bytes) }, clock: ->(computer, bytes) { @computers[computer].tell(bytes) })
          @pace = Pace.new(@model.rate, Unit::BLOCK)
        end

        # Runs until stop.
        def run
          Runtime::Priority.first
          look = 0
          until @stopped
            begin
              round
              look = look_again(look)
            rescue StandardError => e
              Runtime::Health.trouble(e, "a step")
              sleep(0.005)
            end
          end
        end

        def stop = @stopped = true

        private

        def known_model
          rig = read_rig
          @known = rig.slice("interface", "rate")
          Model.new(rig, @profiles, rig.fetch("rate", 48_000))
        end

        def round
          now = Runtime::Clock.now
          other = @pace.elsewhere(@unit.time, now)
          @unit.at(other) if other
          follow if @word.wait_readable(@pace.wait(@unit.time, now))
          steps = 0
          while @pace.may?(@unit.time, Runtime::Clock.now) && (steps += 1) <= 4
            take_in
            @unit.step
          end
        end

        def follow
          MOST.times do
            bytes, sender = @word.recvfrom_nonblock(LARGEST, exception: false)
            return unless bytes.is_a?(String)
            next @unit.changeover.back if bytes == WordClock::BACK

            WordClock.unpack(bytes)&.then { |time, rate| hear_time(time, sender) if rate == @model.rate }
          end
        end

        # One cable: what others send is heard only once that has been silent.
        def hear_time(time, sender)
          now = Runtime::Clock.now
          return if @leads && @leads != sender && now - @led_at < 0.5

          @leads, @led_at = sender, now
          @pace.heard(time, now)
        end

        # Only before a step, however many packets come in.
        def take_in
          @computers.zip(@unit.inputs) { |computer, input| computer.take_in(MOST) { |stream, arrived| input.push(stream, arrived) } }
        end

        def look_again(last)
          now = Runtime::Clock.now
          return last if now - last < LOOK

          stop unless read_rig.slice("interface", "rate") == @known
          now
        rescue StandardError
          now # a rig that is none is the desk's to tell
        end

        def read_rig = Runtime::Files.read_json(File.exist?(@rig_file) ? @rig_file : @first_rig)

        def streams(port, host)
          (1..LANES).each_slice(8).with_index.map do |slice, index|
            Formats::Sdp::Stream.new(host: host, port: port + (2 * index), lanes: slice.size, first: slice.first, rate: @model.rate, payload_type: Formats::Rtp::PAYLOAD_TYPE)
          end
        end

        def packets(stream)
          Runtime::PacketSocket.new(@host, stream.port, stream.lanes * Audio::Pcm24::BYTES)
        rescue Errno::EADDRINUSE
          raise Invalid.new("UDP port #{stream.port} is in use; start with another --port.", where: "port #{stream.port}")
        end

        def udp(port)
          UDPSocket.new.tap do |socket|
            socket.setsockopt(Socket::SOL_SOCKET, Socket::SO_RCVBUF, 1 << 20)
            socket.bind(@host, port)
          end
        rescue Errno::EADDRINUSE
          raise Invalid.new("UDP port #{port} is in use; start with another --port.", where: "port #{port}")
        end
      end
    end
  end
end
