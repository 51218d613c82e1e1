# frozen_string_literal: true

RSpec.describe Loomshuttle::StandIns::Interface do
  let(:streams) { Loomshuttle::StandIns::Desk::Cables.new(VirtualRig.model).streams }

  def model(id, rate = 48_000) = Loomshuttle::StandIns::Interface::Model.new({ "interface" => id }, VirtualRig::PROFILES, rate)

  # What comes out at the outputs of a full-scale ramp on every lane.
  def out_of(model)
    unit = Loomshuttle::StandIns::Interface::Unit.new(model, streams: [streams] * model.computers, cables: streams, out: ->(*) {}, clock: ->(*) {})
    ramp = (Numo::Int32.new(240, 16).seq * 1000) + 7
    send = Loomshuttle::Formats::RtpOut.new(streams, packet: 48, session: 1) { |stream, bytes| unit.inputs[0].push(stream, bytes) }
    send.write(ramp, 0)
    unit.step
    [unit.last, ramp]
  end

  it "puts out what comes in, bit by bit, on as many outputs as its mode has" do
    last, ramp = out_of(model("fern-12-twin"))
    expect(last[true, 0...12]).to eq(ramp[true, 0...12])
    expect(last[true, 12..-1].abs.max).to eq(0)
    four, = out_of(model("fern-8"))
    expect(four[true, 4..-1].abs.max).to eq(0)
  end

  it "has its eight outputs at 44.1 kHz only, with 16 bits" do
    eight, ramp = out_of(model("fern-8", 44_100))
    expect(eight[true, 0...8]).to eq((ramp[true, 0...8] >> 8) << 8)
    expect(model("fern-8", 88_200).outputs).to eq(0)
    expect { model("nothing") }.to raise_error(Loomshuttle::Invalid, "There is no profile nothing.")
  end

  it "tells its clock to each computer after each step" do
    told = []
    clock = ->(computer, bytes) { told << [computer, bytes] }
    unit = Loomshuttle::StandIns::Interface::Unit.new(model("fern-12-twin"), streams: [streams, streams], cables: streams, out: ->(*) {}, clock: clock)
    2.times { unit.step }
    expect(told.map { |computer, bytes| [computer, Loomshuttle::Formats::Rtp.unpack(bytes).timestamp] }).to eq([[0, 240], [1, 240], [0, 480], [1, 480]])
  end

  it "puts out and adds up what comes again as it did the first time, and silence and another sound as they are" do
    out, sums = [], []
    put_out = ->(stream, bytes) { out << [stream, Loomshuttle::Formats::Rtp.unpack(bytes).payload] }
    clock = ->(_, bytes) { sums << Loomshuttle::Formats::Rtp.unpack(bytes).payload }
    unit = Loomshuttle::StandIns::Interface::Unit.new(model("fern-12-twin"), streams: [streams, streams], cables: streams, out: put_out, clock: clock)
    sound = [Numo::Int32.new(240, 16).seq, Numo::Int32.new(240, 16).seq * 3]
    send = Loomshuttle::Formats::RtpOut.new(streams, packet: 48, session: 1) { |stream, bytes| unit.inputs[0].push(stream, bytes) }
    steps = [0, 0, nil, 0, 1, 0].each_with_index.map do |which, nth|
      send.write(sound[which], nth * 240) if which
      out.clear && unit.step
      [which, out.dup, sums.last]
    end
    steps.group_by(&:first).each_value { |alike| expect(alike.uniq.size).to eq(1) }
    expect(steps.map { |_, sent, _| sent.size }).to eq([2, 2, 0, 2, 2, 2])
    expect(Loomshuttle::Audio::Pcm24.from_network(steps[4][2], 1)[true, 0]).to eq(sound[1][true, 0...12].sum(axis: 1))
    expect(steps[2][2].count("\0")).to eq(720)
  end

  describe Loomshuttle::StandIns::Interface::Pace do
    subject(:pace) { described_class.new(48_000, 240) }

    # Steps that are done when somebody looks at these times (seconds).
    def steps(times, time = 0)
      times.map do |now|
        time = pace.elsewhere(time, now) || time
        time += 240 while pace.may?(time, now)
        time
      end
    end

    it "spreads the word clock's steps over its time" do
      pace.heard(0, 10.0)
      expect(steps([10.0, 10.004, 10.0051, 10.009])).to eq([240, 240, 480, 480])
      pace.heard(480, 10.01)
      expect(steps([10.01, 10.0151], 480)).to eq([720, 960])
    end

    it "goes on alone where the word clock is gone, and follows it again where it began again" do
      pace.heard(0, 10.0)
      expect(steps([10.05, 10.2]).last).to be_between(9360, 9600)
      pace.heard(100_000, 10.3)
      expect(steps([10.3])).to eq([100_240])
      expect(described_class.new(48_000, 240).then { |alone| [alone.elsewhere(0, 5.0), alone.may?(0, 5.006)] }).to eq([nil, true])
    end
  end
end
