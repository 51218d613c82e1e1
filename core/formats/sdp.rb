# frozen_string_literal: true

module Loomshuttle
  module Formats
    # Session descriptions (RFC 8866) of RTP L24 streams (RFC 3190): one media section a stream.
    module Sdp
      # port: UDP port; lanes: lanes in the stream; first: number of its first lane; rate in Hz
      Stream = Value.define(:host, :port, :lanes, :first, :rate, :payload_type)

      # @param name [String] session name
      # @param streams [Array<Stream>]
      # @param session [Integer] number of the session, different each time
      # @return [String] lines end with CR LF
      def self.write(name, streams, session:)
        host = streams.first.host
        lines = ["v=0", "o=- #{session} #{session} IN IP4 #{host}", "s=#{name}", "c=IN IP4 #{host}", "t=0 0"]
        "#{(lines + streams.flat_map { |stream| media(stream) }).join("\r\n")}\r\n"
      end

      # @param text [String]
      # @return [Array<Stream>]
      # @raise [Invalid] when a stream is not L24
      def self.read(text)
        host = text[/^c=IN IP4 (\S+)/, 1]
        sections = text.split(/^m=/).drop(1)
        first = 1
        sections.map do |section|
          stream = read_section(section, host, first)
          first = stream.first + stream.lanes
          stream
        end
      end

      class << self
        private

        def media(stream)
          last = stream.first + stream.lanes - 1
          ["m=audio #{stream.port} RTP/AVP #{stream.payload_type}", "i=lanes #{stream.first} to #{last}",
           "a=rtpmap:#{stream.payload_type} L24/#{stream.rate}/#{stream.lanes}", "a=ptime:1"]
        end

        def read_section(section, host, next_first)
          port = section[%r{\Aaudio (\d+) RTP/AVP}, 1]
          type, rate, lanes = section.match(%r{^a=rtpmap:(\d+) L24/(\d+)(?:/(\d+))?\s*$})&.captures
          raise Invalid.new("A stream of the session description is not RTP L24: m=#{section.lines.first&.strip}", where: "sdp") unless port && type

          first = section[/^i=lanes (\d+) to/, 1]&.to_i || next_first
          Stream.new(host: host, port: port.to_i, lanes: (lanes || 1).to_i, first: first, rate: rate.to_i, payload_type: type.to_i)
        end
      end
    end
  end
end
