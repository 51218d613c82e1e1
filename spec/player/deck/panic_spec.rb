# frozen_string_literal: true

# Everything is silent within 10 ms of a panic, whatever was sent ahead: at an interface and at a desk's card, with any buffer, at any moment
# of the clock. The pilot is muted: silence itself has to be sent.
RSpec.describe "A panic", :folder do
  # What is played to: takes blocks and tells its clock behind each, as interface and desk do.
  let(:device_kind) do
    Class.new do
      attr_reader :heard

      def initialize(streams, block, player)
        @in = Loomshuttle::StandIns::LanesIn.new(streams)
        @block, @player, @time, @heard = block, player, 90_000, []
      end

      def push(index, bytes) = @in.push(index, bytes)

      def step
        @heard << @in.read(@time, @block)[true, 0].to_a
        @time += @block
        @player.call.hear(Loomshuttle::Formats::Rtp.pack(sequence: 0, timestamp: @time, source: 3, payload: "\0\0\0"))
      end
    end
  end

  let(:streams) { [Loomshuttle::Formats::Sdp::Stream.new(host: "", port: 0, lanes: 8, first: 1, rate: 48_000, payload_type: 97)] }
  let(:now) { [0.0] }

  def play(block:, buffer:, returns: [])
    loud = Numo::Int32.cast((Numo::NMath.sin(Numo::DFloat.new(96_000).seq * (2 * Math::PI * 200 / 48_000)) * 8_000_000).round)
    id = SongFolder.write(@folder, { "Strings" => loud }, click: { "on" => false })
    player = nil
    device = device_kind.new(streams, block, -> { player })
    player = Loomshuttle::Player::Unit.new(rate: 48_000, streams: streams, library: Loomshuttle::Player::SongReader.new(@folder, 48_000), config: Loomshuttle::Player::Config.new(nil),
                                           now: -> { now.first }) { |index, bytes| device.push(index, bytes) }
    player.configure(items: [{ "key" => 1, "song" => id }], roles: [{ "name" => "Strings", "kind" => "parts", "outputs" => [1] }], buffer: buffer, returns: returns,
                     pilot: { "hz" => 19_000, "level_db" => -30, "mute" => true })
    3.times { device.step }
    player.load(item: 1)
    player.command("play")
    [player, device]
  end

  { "an interface" => [240, []], "a desk's card" => [480, [1]] }.each do |what, (block, returns)|
    [480, 960, 9600].each do |buffer|
      it "silences #{what} with a buffer of #{buffer} frames within 10 ms, without a step, wherever the clock is" do
        (0..4).each do |phase|
          player, device = play(block: block, buffer: buffer, returns: returns)
          ((30_000 / block) + phase).times do
            now[0] += block / 48_000.0
            nil while player.fill
            device.step
          end
          expect(device.heard.last.map(&:abs).max).to be > 4_000_000
          device.heard.replace([device.heard.last])
          player.command("panic")
          40.times { device.step }
          heard = device.heard.flatten.drop(block - 1)
          expect(heard.rindex { |sample| !sample.zero? }.to_i).to be <= 480
          expect(heard.each_cons(2).map { |one, other| (one - other).abs }.max).to be < 8_000_000 * 2 * Math::PI * 200 / 48_000 * 1.6
        end
      end
    end
  end

  it "keeps no more of what was sent than the largest buffer has, however often the clock goes back" do
    player, device = play(block: 240, buffer: 9600)
    horizon = player.instance_variable_get(:@horizon).instance_variable_get(:@blocks)
    20.times do |round|
      device.instance_variable_set(:@time, 50_000_000 - (round * 1_000_000))
      200.times { device.step }
    end
    expect(horizon.size).to be <= Loomshuttle::Player::Horizon::MOST
    expect(player.status["restarts"]).to eq(20)
    keeper = Loomshuttle::Player::Horizon.new
    1000.times { |nth| keeper.keep(Numo::SFloat.zeros(1, 480), -nth * 480) }
    expect(keeper.instance_variable_get(:@blocks).size).to be <= 32
  end
end
