# frozen_string_literal: true

# A stage with a tone of 1 kHz at one socket and silence at all others; its peak is 0.01 of full scale.
TestTone = Struct.new(:index, :sockets) do
  def read(time, frames)
    out = Numo::DFloat.zeros(frames, sockets)
    out[true, index] = Numo::NMath.sin((Numo::DFloat.new(frames).seq + time) * (2 * Math::PI / 48)) * 0.01 if index
    out
  end
end

# A stage on which every socket has one sample of sound, the first.
Click = Struct.new(:sockets) do
  def read(time, frames)
    Numo::DFloat.zeros(frames, sockets).tap { |out| out[0, true] = 0.05 if time.zero? }
  end
end
