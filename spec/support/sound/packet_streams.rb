# frozen_string_literal: true

# Datagrams of a stream as a bad network delivers them, seeded: mostly consecutive, some lost, late, doubled, cut, or somebody else's.
module PacketStreams
  module_function

  # @param lanes [Integer]   @param count [Integer] packets that were sent
  # @return [Array<String>]
  def datagrams(random, lanes:, count:, frames: 48)
    start, number, source = random.rand(1 << 32), random.rand(65_536), random.rand(1 << 32)
    whole = Array.new(count) do |nth|
      Loomshuttle::Formats::Rtp.pack(sequence: number + nth, timestamp: start + (nth * frames), source: source, payload: random.bytes(frames * lanes * 3))
    end
    whole.flat_map { |bytes| delivered(bytes, random) }.tap { |list| (count / 40).times { swap(list, random) } }
  end

  def delivered(bytes, random)
    case random.rand(60)
    when 0 then []
    when 1 then [bytes, bytes]
    when 2 then [bytes, HostilePackets.rtp(random)]
    when 3 then [bytes, bytes.byteslice(0, random.rand(bytes.bytesize + 1))]
    when 4 then [bytes.dup.tap { |one| one.setbyte(random.rand(12), random.rand(256)) }]
    else [bytes]
    end
  end

  def swap(list, random)
    at = random.rand(list.size - 4)
    other = at + random.rand(1..3)
    list[at], list[other] = list[other], list[at]
  end
end
