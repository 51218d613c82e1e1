# frozen_string_literal: true

# What the lanes carry: noise that repeats after a prime number of milliseconds, so that any slip shows.
class Noise
  MILLISECONDS = 1009

  # @param streams [Array<Loomshuttle::Formats::Sdp::Stream>]
  def initialize(streams)
    @streams = streams
    @frames = streams.first.rate / 1000
    @payloads = streams.map { Array.new(MILLISECONDS) { Random.bytes(@frames * 8 * 3) } }
  end

  # @return [String] packet of a stream's nth millisecond
  def packet(stream, number)
    Loomshuttle::Formats::Rtp.pack(sequence: number, timestamp: number * @frames, source: stream, payload: @payloads[stream][number % MILLISECONDS])
  end

  # @return [Numo::Int32] one round of a lane, from a position on
  def lane(lane, position)
    stream, column = lane.divmod(8)
    samples = Loomshuttle::Audio::Pcm24.from_network(@payloads[stream].join, 8)[true, column].dup
    at = position % samples.size
    at.zero? ? samples : Numo::Int32.hstack([samples[at..], samples[0...at]])
  end
end
