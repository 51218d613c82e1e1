# frozen_string_literal: true

# Noise at each socket of a desk that repeats after a number of frames. Counts how often it is read.
class RoundStage
  attr_reader :reads, :frames

  def initialize(sockets, frames)
    @frames, @reads, @sign = frames, 0, 1
    @noise = Numo::DFloat.cast(Numo::Int16.from_binary(Random.new(3).bytes(frames * sockets * 2), [frames, sockets])) / 500_000
  end

  def read(time, frames)
    @reads += 1
    from = time % @noise.shape[0]
    @noise[from...(from + frames), true] * @sign
  end

  # Everybody's cable is wired the other way round.
  def happen(_word, _socket) = @sign = -@sign
end
