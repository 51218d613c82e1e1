# frozen_string_literal: true

require "socket"

module Loomshuttle
  module Supervisor
    # Whether an instance's ports are free, and its web's one that browsers open.
    module PortCheck
      # Bad ports from 1024 on (WHATWG Fetch Standard, "port blocking"; from memory): a browser shows nothing that is served there.
      BLOCKED = [1719, 1720, 1723, 2049, 3659, 4045, 4190, 5060, 5061, 6000, 6566, *6665..6669, 6679, 6697, 10_080].freeze

      # @param ports [Ports]
      # @raise [Failed] names the first port in use
      def self.run(ports)
        raise Failed, "Port #{ports.web} cannot be used; choose one from 1024 to 65500 with --port." unless ports.web.between?(1024, 65_500)
        raise Failed, "Browsers open nothing on port #{ports.web}; choose another one with --port." if BLOCKED.include?(ports.web)

        { ports.web => "the interface", ports.database => "the database", ports.twin => "a second computer" }.each { |port, what| tcp(port, what) }
        [ports.osc, *playback(ports), *(0..6).flat_map { |n| [ports.sends + (2 * n), ports.returns + (2 * n)] }].each { |port| udp(port) }
      end

      def self.playback(ports)
        [ports.word_clock, *(ports.lanes..(ports.lanes + 3)), ports.player_clock, ports.player_clock + 1, ports.cables, ports.cables + 2, ports.foot, ports.card_clock]
      end

      def self.tcp(port, what)
        TCPServer.new("127.0.0.1", port).close
      rescue Errno::EADDRINUSE
        raise Failed, "TCP port #{port} for #{what} is in use; stop what runs there, or start with another --port, 40 apart."
      end

      def self.udp(port)
        socket = UDPSocket.new
        socket.bind("127.0.0.1", port)
      rescue Errno::EADDRINUSE
        raise Failed, "UDP port #{port} is in use; stop what runs there, or start with another --port, 40 apart."
      ensure
        socket&.close
      end
      private_class_method :playback, :tcp, :udp
    end
  end
end
