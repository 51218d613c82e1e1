# frozen_string_literal: true

# Through aplay and a card of ALSA's own plugins, which writes what it plays into a file (docs of alsa-lib: "Plugin: File").
RSpec.describe Loomshuttle::Player::SoundCard, :folder do
  include_context "with an ALSA card"

  let(:outputs) { 2 }
  let(:format) { "S32_LE" }
  let(:device) { Loomshuttle::Runtime::SoundDevices::Device.new(name: "twelve", words: "Twelve", inputs: 0, outputs: outputs, rates: [8000, 192_000], format: format) }
  let(:card) { described_class.new(device, rate: 48_000, now: -> { Process.clock_gettime(Process::CLOCK_MONOTONIC) }) }
  let(:times) { [] }

  after { card.close }

  # Plays blocks of a song, as often as the card asks for one.
  # @param sound [Numo::Int32] [frames, outputs]
  def play(sound)
    out = Loomshuttle::Formats::RtpOut.new(card.streams, packet: 48, session: 1) { |index, bytes| card.send(index, bytes) }
    Tools.wait_until(60, "all of it to be taken") do
      20.times do
        card.hear(0.1) do |bytes|
          times << Loomshuttle::Formats::Rtp.unpack(bytes).timestamp
          at = (times.size - 1) * 480
          out.write(sound[at...(at + 480), true], at) if at < sound.shape[0]
        end
      end
      times.size > (sound.shape[0] / 480) + 20
    end
  end

  def played
    Tools.wait_until(60, "what was played") { File.exist?(outfile) && File.size(outfile).positive? }
    card.close
    Numo::Int32.from_binary(File.binread(outfile)).then { |all| all.reshape(all.size / outputs, outputs) } / 256
  end

  # After a block more of silence.
  def state
    card.hear(0.01) { |_| 10.times { |nth| card.send(0, Loomshuttle::Formats::Rtp.pack(sequence: 0, timestamp: 9600 + (@blocks = @blocks.to_i + 1) + nth, source: 1, payload: "\0" * 288)) } }
    card.status["state"]
  end

  it "is the clock: a block for each that it takes, and what it was given comes out sample by sample" do
    sound = Numo::Int32.from_binary(Random.new(2).bytes(48_000 * outputs * 4)).reshape(48_000, outputs) / 512
    play(sound)
    expect(times).to eq((1..times.size).map { |n| n * 480 })
    heard = played
    expect(heard.shape[0]).to be > 40_000
    expect((heard - sound[0...heard.shape[0], true]).abs.max).to eq(0)
    expect(card.status).to include("words" => "Twelve", "state" => "running", "outputs" => 2)
  end

  context "with more outputs than songs are played to" do
    let(:outputs) { 20 }
    let(:format) { "S24_3LE" }

    it "leaves those beyond them silent" do
      expect(card.streams.map { |stream| [stream.first, stream.lanes] }).to eq([[1, 8], [9, 8]])
      play(Numo::Int32.new(9600, 16).seq)
      Tools.wait_until(60, "what was played") { File.size?(outfile).to_i > 480 * 20 * 3 }
      card.close
      heard = Loomshuttle::Audio::Pcm24.from_wav(File.binread(outfile, 480 * 20 * 3), 20)
      expect(heard[0...480, 0...16]).to eq(Numo::Int32.new(480, 16).seq)
      expect(heard[true, 16..].abs.max).to eq(0)
    end
  end

  it "never takes faster than its rate, though the plugin would" do
    from = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    play(Numo::Int32.zeros(24_000, outputs))
    gone = Process.clock_gettime(Process::CLOCK_MONOTONIC) - from
    expect(times.last / 48_000.0).to be < (gone * 1.03) + 0.2
  end

  it "takes nothing twice: what is sent again for a time that has gone is let go" do
    sent = Numo::Int32.new(480, outputs).fill(100)
    play(sent)
    out = Loomshuttle::Formats::RtpOut.new(card.streams, packet: 48, session: 1) { |index, bytes| card.send(index, bytes) }
    before = card.instance_variable_get(:@left).bytesize
    out.write(sent, 0)
    expect(card.instance_variable_get(:@left).bytesize).to eq(before)
  end

  it "says that it has gone, waits for nothing, and is back on its own" do
    play(Numo::Int32.zeros(4800, outputs))
    Process.kill(:KILL, card.instance_variable_get(:@pipe).pid)
    Tools.wait_until(60, "the end") { state == "gone" }
    Tools.wait_until(60, "its return") { state == "running" }
  end

  it "ends at once what it still has to play, and begins again with silence" do
    loud = Numo::Int32.new(24_000, outputs).fill(4_000_000)
    play(loud)
    Tools.wait_until(60, "some of it") { File.size?(outfile).to_i > 4800 }
    expect(card.cut).to be(true)
    File.delete(outfile)
    Tools.wait_until(60, "it to run again") { state == "running" && File.size?(outfile).to_i > 4800 }
    card.close
    expect(Numo::Int32.from_binary(File.binread(outfile)).abs.max).to eq(0)
  end
end
