# frozen_string_literal: true

require "numo/pocketfft"

# Where a source that arrives twice is weakest, as the plan tells it, against the spectrum of what the stand-in makes.
RSpec.describe Loomshuttle::Hearing::Comb do
  # A single sample at one socket.
  let(:stage) do
    Class.new do
      def read(time, frames)
        Numo::DFloat.zeros(frames, 12).tap { |block| block[1000 - time, 0] = 0.5 if (time...(time + frames)).cover?(1000) }
      end
    end.new
  end
  let(:desk) do
    Loomshuttle::StandIns::Desk::Unit.new(VirtualRig.model({ "desk" => "alder-40" }), ports: { sends: 5000, returns: 6000 }, now: -> { 0.0 }, stage: stage,
                                                                                      card: ->(*) {}, reply: ->(*) {})
  end

  def set(values) = values.each { |address, value| desk.settings.set(address, value) }

  # A second of what both outputs make together.
  def measured
    blocks = Array.new(100) do
      desk.step
      desk.last.outputs[true, 0] + desk.last.outputs[true, 4]
    end
    Numo::DFloat[*blocks.flat_map(&:to_a)]
  end

  [37, 120, 480].each do |late|
    it "is where the spectrum has its first three minima, #{late} samples apart" do
      set("block/1/stage" => "in/1", "strip/1/gain" => 0.0, "strip/1/tilt" => 0.0, "strip/1/bus/1" => 0.0, "output/1/from" => "bus/1", "output/5/from" => "bus/1",
          "output/5/delay" => late)
      (2..40).each { |number| set("strip/#{number}/tilt" => 0.0, "strip/#{number}/fader" => -90.0) }
      spectrum = Numo::Pocketfft.rfft(measured).abs # a bin a hertz
      told = described_class.notches(late, 48_000)
      minima = (1...(spectrum.size - 1)).select { |bin| spectrum[bin] <= spectrum[bin - 1] && spectrum[bin] < spectrum[bin + 1] }.first(3)
      expect(minima).to match(told.map { |hertz| be_within(1).of(hertz) })
      expect(told.map { |hertz| spectrum[hertz.round] / spectrum.max }).to all(be < 0.05)
    end
  end
end
