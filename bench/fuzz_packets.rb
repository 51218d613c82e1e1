# frozen_string_literal: true

# Reads seeded packets by the C file and by its reference and compares: fuzz_packets.rb PACKETS.SO COUNT [SEED]. Run beneath the address
# sanitizer by spec/runtime/packets_spec.rb, also a million of them (FUZZED=1000000).
require_relative "support"
require "numo/narray"
require "socket"
Loomshuttle.load_parts(:core, :runtime, :recorder)
require_relative "../spec/support/core/damage"
require_relative "../spec/support/sound/hostile_packets"
require_relative "../spec/support/sound/packet_streams"
require ARGV.fetch(0)

count, random = ARGV.fetch(1).to_i, Random.new(ARGV.fetch(2, 1).to_i)
run = Loomshuttle::Formats::RtpRuns::Run
done = joined = 0
from, to = UDPSocket.new, UDPSocket.new
to.setsockopt(Socket::SOL_SOCKET, Socket::SO_RCVBUF, 8 << 20)
to.bind("127.0.0.1", 0)
from.connect("127.0.0.1", to.addr[1])
while done < count
  lanes, frames = random.rand(1..9), [0, 1, 6, 48, 48, 48].sample(random: random)
  list = PacketStreams.datagrams(random, lanes: lanes, count: 60, frames: frames)
  wanted = Loomshuttle::Formats::RtpRuns.of(list, lanes * 3)
  abort "runs differ, packets #{done} and on" unless Loomshuttle::Packets.runs(list, lanes * 3, run) == wanted
  list.each_slice(32) do |some|
    some.each { |bytes| from.send(bytes, 0) }
    abort "what is received differs, packets #{done} and on" unless Loomshuttle::Packets.receive(to.fileno, 32, lanes * 3, run) == Loomshuttle::Formats::RtpRuns.of(some, lanes * 3)
  end
  wanted.grep(run).each do |one|
    joined += one.count - 1
    there = Numo::Int32.from_binary(Loomshuttle::Packets.integers(one.payload, lanes), [lanes, one.payload.bytesize / (lanes * 3)]).transpose
    samples = Loomshuttle::Audio::Pcm24.from_network(one.payload, lanes)
    abort "integers differ, packets #{done} and on" unless there == samples
    abort "lanes differ, packets #{done} and on" unless Loomshuttle::Packets.planes(one.payload, lanes) == Loomshuttle::Audio::Pcm24.to_wav(samples.transpose.dup)
  end
  done += list.size
end
puts "#{done} packets, #{joined} of them joined: equal"
