# frozen_string_literal: true

# kill -9 of the recorder at seeded moments while it captures, fifty or as many as KILLS says: ten recorders at a time hear the same sender, whose
# samples tell the millisecond they were sent in.
RSpec.describe "A recorder that is killed while it captures" do
  # The design's figure.
  let(:most_lost_ms) { 250 }
  # Milliseconds on their way at most: the sender waits for the slowest recorder's file, so that only what recorders hold back is lost.
  let(:ahead) { 200 }
  let(:random) { Random.new(20_260_613) }
  let(:rounds) { (Integer(ENV.fetch("KILLS", "50")) / 10.0).ceil }

  def recorders(root)
    Array.new(10) do |n|
      home = File.join(root, n.to_s).tap { |path| FileUtils.mkdir_p(path) }
      port = Tools.free_udp_ports
      [RunningRecorder.new(home).on_card(port), port]
    end
  end

  def begin_capture(recorder)
    recorder.call("configure", tracks: [1, 2].map { |n| { number: n, name: "Lane #{n}", inputs: [n], outputs: [], armed: true } })
    Tools.wait_until(60, "a clock") { recorder.call("capture.start", name: "Killed")["id"] }
  end

  # Kills each at its moment, which is counted in what was sent: so it comes later on a busy machine.
  # @return [Hash{String=>Integer}] home => milliseconds that had been sent by then
  def kill_all(list, sender)
    began = sender.sent
    moments = list.map { |recorder| [recorder, began + random.rand(200..2500)] }.sort_by(&:last)
    moments.to_h do |recorder, at|
      Tools.wait_until(120, "millisecond #{at}; a recorder keeps more than #{ahead} ms to itself") { sender.sent >= at }
      sent = sender.sent
      recorder.kill
      [recorder.home, sent]
    end
  end

  # @return [Array] milliseconds lost, and what the recovery said
  def recovered(home, sent)
    take = Loomshuttle::Recorder::Recovery.run(File.join(home, "takes")).first
    files = Dir[File.join(home, "takes", "*", "*.wav")]
    expect(files.size).to eq(2)
    whole = [take["frames"], *take["tracks"].filter_map { |track| track["silent_from"] }].min # where both have sound
    last = files.map { |path| Loomshuttle::Formats::Wav::Reader.new(path).read(whole - 1, 1)[0, 0] }
    expect(last.uniq.size).to eq(1), "the tracks of #{home} end apart: #{last}"
    [sent - last.first, take, files]
  end

  # @return [Integer, nil] milliseconds that all who are left have in their files, or have heard before their files begin
  def written(list)
    list.filter_map do |recorder|
      heard = recorder.call("status")&.fetch("position") or next
      last_in_file(recorder.home) || heard.div(48)
    end.min
  end

  # @return [Integer, nil] the last millisecond in the first track's file; nil while nothing is in it
  def last_in_file(home)
    path = Dir[File.join(home, "takes", "*", "*.wav")].min or return
    File.open(path, "rb") do |file|
      @data_at ||= Loomshuttle::Formats::Wav.each_chunk(file) { |id, _, at| break at if id == "data" }
      samples = (file.size - @data_at).div(3)
      samples.positive? ? "#{file.pread(3, @data_at + ((samples - 1) * 3))}\0".unpack1("V") : nil
    end
  end

  # Ten kills. @return [Array<Integer>] milliseconds that each lost
  def round
    Dir.mktmpdir do |root|
      all = recorders(root)
      sender = CountingSender.new(all.map(&:last), ahead: ahead) { written(all.map(&:first)) }
      all.map { |recorder, _| Thread.new { recorder.start } }.each(&:join)
      sender.start
      all.map(&:first).each { |recorder| begin_capture(recorder) }
      sent = kill_all(all.map(&:first), sender)
      sender.stop
      sent.map { |home, ms| whole(*recovered(home, ms)) }
    ensure
      sender&.stop
      all.map(&:first).each(&:stop)
    end
  end

  # Checks what was kept. @return [Integer] milliseconds lost
  def whole(missing, take, files)
    expect(take).to include("state" => "recovered", "note" => /were recovered/)
    expect(Tools.run("sndfile-info", files.first)).to match(/Frames\s*: #{take['frames']}\b/)
    expect(Tools.run("ffprobe", "-v", "error", "-show_entries", "stream=duration_ts", "-of", "csv=p=0", files.last).to_i).to eq(take["frames"])
    missing
  end

  it "keeps every file readable, loses a quarter of a second at most, and says what was kept" do
    lost = Array.new(rounds) { round }.flatten
    expect(lost.size).to eq(10 * rounds)
    expect(lost.max).to be <= most_lost_ms, "lost #{lost.sort.last(5)} ms"
  end
end
