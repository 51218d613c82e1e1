# frozen_string_literal: true

# Two lanes in packets of four milliseconds, a quarter of an hour a take; each is thrown away when the next one is over, so that the disk does
# not fill.
class LongRecorder
  FRAMES = 192
  SECOND = 48_000 / FRAMES

  def initialize(folder)
    stream = L::Formats::Sdp::Stream.new(host: "virtual", port: 1, lanes: 2, first: 1, rate: 48_000, payload_type: 97)
    @sound, @sent, @start = Array.new(97) { Random.bytes(FRAMES * 2 * 3) }, 0, 0
    @unit = L::Recorder::Unit.new(sends: [stream], returns: [stream], takes: File.join(folder, "takes"), settings: File.join(folder, "recorder.json"), now: -> { @sent / SECOND.to_f }) { |*| nil }
    @unit.on_meters = @unit.on_second = ->(*) {}
    @unit.configure(tracks: [1, 2].map { |n| { "number" => n, "name" => "Lane #{n}", "inputs" => [n], "outputs" => [n], "armed" => true } })
    run(2)
  end

  def hour(number) = 4.times { |quarter| take("Hour #{number} #{quarter}", restart: quarter == 2) }

  private

  def take(name, restart:)
    @unit.capture_start(name: name)
    run(450)
    @start += 1_000_000_000 if restart # the desk restarts in the middle of a take
    run(449)
    @unit.shelf.discard(take: @unit.capture_stop["id"])
    @unit.shelf.empty_bin
    run(1)
  end

  def run(seconds)
    (seconds * SECOND).times do
      @unit.engine.receive(0, L::Formats::Rtp.pack(sequence: @sent % 65_536, timestamp: (@start + (@sent * FRAMES)) % (1 << 32), source: 7, payload: @sound[@sent % 97]))
      @sent += 1
    end
  end
end
