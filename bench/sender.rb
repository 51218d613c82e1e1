# frozen_string_literal: true

# Sends N lanes of noise as RTP L24 streams of eight, in real time: sender.rb LANES FIRST-PORT SECONDS. Packets are made
# beforehand and sent 10 ms at a time, so that what is measured is the receiver.
require_relative "support"

Loomshuttle.load_parts(:core)
lanes, port, seconds = ARGV.map(&:to_i)
streams = (lanes / 8.0).ceil
targets = Array.new(streams) { |at| Socket.sockaddr_in(port + (2 * at), "127.0.0.1") }
socket = UDPSocket.new
payloads = Array.new(100) { Random.bytes(48 * 8 * 3) }
started = Bench.now
(seconds * 100).times do |step|
  10.times do |nth|
    number = (step * 10) + nth
    targets.each_with_index do |target, at|
      bytes = Loomshuttle::Formats::Rtp.pack(sequence: number, timestamp: number * 48, source: at, payload: payloads[(number + at) % 100])
      socket.send(bytes, 0, target)
    rescue Errno::ECONNREFUSED
      retry
    end
  end
  ahead = started + ((step + 1) * 0.01) - Bench.now
  sleep(ahead) if ahead.positive?
end
