# frozen_string_literal: true

# A song around and around; its clock goes back, or far ahead, every hour.
class LongPlayer
  def initialize(folder)
    streams = [L::Formats::Sdp::Stream.new(host: "127.0.0.1", port: 9, lanes: 8, first: 1, rate: 48_000, payload_type: 97)]
    id = SongFolder.write(folder, { "Strings" => SongFolder.noise(48_000 * 20, 5) })
    @now, @time = 0.0, 5_000_000
    @unit = L::Player::Unit.new(rate: 48_000, streams: streams, library: L::Player::SongReader.new(folder, 48_000), config: L::Player::Config.new(nil), now: -> { @now }) { |*| nil }
    @unit.configure(items: [{ "key" => 1, "song" => id }], roles: [{ "name" => "Strings", "kind" => "parts", "outputs" => [1] }])
    run(1)
  end

  def hour(number)
    120.times do
      @unit.load(item: 1)
      @unit.command("play")
      run(29)
      @unit.command("stop")
      run(1)
    end
    @time += number.even? ? -4_000_000 : 900_000_000
    run(1)
  end

  private

  def run(seconds)
    (seconds * 200).times do |step|
      @now += 0.005
      @time += 240
      @unit.fill if (step % 20).zero?
      @unit.hear(L::Formats::Rtp.pack(sequence: 0, timestamp: @time % (1 << 32), source: 1, payload: "\0" * 3))
    end
  end
end
