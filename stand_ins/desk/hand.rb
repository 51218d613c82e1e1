# frozen_string_literal: true

require "socket"
require "io/wait"

module Loomshuttle
  module StandIns
    module Desk
      # Operates the simulated desk for bin/desk: reads and sets its settings as somebody standing at it would, and uses its workshop (docs/desk-
      # control.md).
      class Hand
        class Failed < StandardError; end

        TRIES = 12
        USAGE = <<~TEXT
          A hand at the stand-in desk: bin/desk [--port N] COMMAND; N is the application's port, by default that of bin/demo's last start
            get ADDRESS           what a setting is
            set ADDRESS VALUE     change it by hand
            list [START]          addresses that begin so
            loss PERCENT          lose that many of all control packets, both ways
            restart               restart the desk
            rig FILE              stand in another rig (demo/rig.json)
            stage WORD SOCKET     a hand on stage, at a socket as the desk names it (a.1/16, in/3) or at all of them: quiet and
                                  sound stop a player and let him play, cable swaps a bad cable, turn plugs one that is turned over
            changeover back       press the playback interface's button: the first computer is heard again
        TEXT

        # Uses the desk's port, which is two above the application's.
        # @param arguments [Array<String>]
        # @return [Integer] exit code
        def self.main(arguments)
          at = arguments.index("--port")
          port = at ? arguments.slice!(at, 2).last.to_i : Runtime::InstancePort.of(File.join(ROOT, "var"))
          puts new(port + 2).run(*arguments)
          0
        rescue Failed => e
          warn e.message
          1
        end

        # @param port [Integer] the desk's OSC port
        def initialize(port)
          @port = port
          @socket = UDPSocket.new.tap { |socket| socket.connect("127.0.0.1", port) }
          @number = rand(1 << 20)
        end

        # @return [String] to print
        # @raise [Failed]
        def run(command = nil, *words)
          case [command, words.size]
          in ["get", 1] then ask("/get", words[0])
          in ["set", 2] then ask("/set", words[0], like(ask("/get", words[0]), words[1]))
          in ["list", 0 | 1] then list(words[0].to_s)
          in ["loss", 1] then ask("/workshop", "loss", words[0].to_i)
          in ["restart", 0] then ask("/workshop", "restart", 1) && "The desk restarts."
          in ["rig", 1] then ask("/workshop", "rig", File.read(words[0])) && "The desk restarts in that rig."
          in ["changeover", 1] then ask("/workshop", "changeover", words[0])
          in ["stage", 2] then ask("/workshop", "stage", words.join(" "))
          else raise Failed, USAGE
          end
        rescue SystemCallError => e
          raise Failed, e.message
        end

        private

        # A value as the desk keeps it: a number stays a number.
        def like(now, text)
          case now
          when Float then Float(text)
          when Integer then Integer(text)
          else text
          end
        rescue ArgumentError
          raise Failed, "#{text} is not a number."
        end

        def list(start)
          all = []
          loop do
            page = ask("/list", start, all.size).split("\n")
            return all.join("\n") if page.empty?

            all.concat(page)
          end
        end

        # Asks until an answer comes, for packets may be lost.
        def ask(verb, *arguments)
          @number += 1
          TRIES.times do
            @socket.send(Formats::Osc.pack(verb, @number, *arguments), 0)
            answer = hear and return answer
          rescue Errno::ECONNREFUSED
            sleep(0.1)
          end
          raise Failed, "No desk answers for an application on port #{@port - 2}; start it with bin/demo, or name its port with --port."
        end

        def hear
          while @socket.wait_readable(0.25)
            message = Formats::Osc.unpack(@socket.recv(65_536)).first
            next unless message.arguments.first == @number
            raise Failed, "The desk refuses: #{message.arguments.last}." if message.address == "/refused"

            return message.arguments.last
          end
        end
      end
    end
  end
end
