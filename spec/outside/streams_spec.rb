# frozen_string_literal: true

# Our RTP L24 and GStreamer's, sample for sample, over real sockets. GStreamer takes eight lanes for a 7.1 layout and
# puts them into its own order, so lanes are compared by content: each is there once, and whole.
RSpec.describe "RTP L24 beside GStreamer", :folder do
  let(:frames) { 48_000 * 3 }
  let(:lanes) { 8 }
  let(:samples) do
    random = Random.new(12)
    block = Numo::Int32.cast(Numo::Int32.from_binary(random.bytes(frames * lanes * 4)) >> 8)
    block.reshape(frames, lanes)
  end

  it "is received by a GStreamer pipeline" do
    port = Tools.free_udp_ports
    out = File.join(@folder, "received.raw")
    caps = "application/x-rtp,media=audio,clock-rate=48000,encoding-name=L24,channels=#{lanes},payload=97"
    receiver = spawn("gst-launch-1.0", "-q", "udpsrc", "address=127.0.0.1", "port=#{port}", "buffer-size=4000000", "caps=#{caps}", "!", "rtpL24depay", "!", "filesink",
                     "location=#{out}", "buffer-mode=unbuffered", out: File::NULL, err: File::NULL)
    socket = UDPSocket.new.tap { |one| one.connect("127.0.0.1", port) }
    stream = Loomshuttle::Formats::Sdp::Stream.new(host: "127.0.0.1", port: port, lanes: lanes, first: 1, rate: 48_000, payload_type: 97)
    card = Loomshuttle::Formats::RtpOut.new([stream], packet: 48, session: 3) { |_, bytes| send_quietly(socket, bytes) }
    sent_lead_in(card, out)
    card.write(samples, 960_000)
    received = Tools.wait_until(60, "GStreamer's file") { last_frames(out) }
    expect(lanes_of(received)).to eq(lanes_of(samples))
  ensure
    RunningProcess.stop(receiver) if receiver
  end

  def lanes_of(block) = (0...lanes).map { |lane| block[true, lane].to_binary }.sort

  # The end of the file, once the last frame that was sent is there.
  def last_frames(path)
    size = frames * lanes * 3
    return if File.size(path) < size

    block = Loomshuttle::Audio::Pcm24.from_network(File.binread(path, size, File.size(path) - size), lanes)
    block if block[-1, true].to_a.sort == samples[-1, true].to_a.sort
  end

  # GStreamer takes a while to listen: silence is sent until its file grows.
  def sent_lead_in(card, out)
    silence = Numo::Int32.zeros(480, lanes)
    sent = 0
    Tools.wait_until(60, "GStreamer") do
      card.write(silence, sent += 480)
      File.exist?(out) && File.size(out).positive?
    end
  end

  def send_quietly(socket, bytes)
    socket.send(bytes, 0)
    sleep(0.0002)
  rescue Errno::ECONNREFUSED
    nil
  end

  it "is captured by us when GStreamer sends it" do
    port = Tools.free_udp_ports
    raw = File.join(@folder, "source.wav")
    write_source(raw)
    describe_streams(port)
    recorder = RunningRecorder.new(@folder)
    recorder.start
    recorder.call("configure", tracks: (1..lanes).map { |n| { number: n, name: "Lane #{n}", inputs: [n], outputs: [], armed: true } })
    sender = spawn("gst-launch-1.0", "-q", "filesrc", "location=#{raw}", "!", "wavparse", "!", "audioconvert", "!", "audio/x-raw,format=S24BE", "!", "rtpL24pay", "pt=97",
                   "min-ptime=1000000", "max-ptime=1000000", "!", "udpsink", "host=127.0.0.1", "port=#{port}", out: File::NULL, err: File::NULL)
    Tools.wait_until(60, "a clock") { recorder.call("status")["clock"] }
    recorder.call("capture.start", name: "From outside", frames: 48_000)
    folder, manifest = recorder.finished_take
    expect(manifest).to include("frames" => 48_000, "gaps" => [])
    compare(folder, manifest)
  ensure
    Process.kill(:TERM, sender) if sender
    recorder&.stop
  end

  # Each lane of the take is a stretch of one of the source's, and all of them the same stretch.
  def compare(folder, manifest)
    taken = manifest["tracks"].map { |track| Loomshuttle::Formats::Wav::Reader.new(File.join(folder, track["file"])).read[true, 0] }
    start = (0...lanes).filter_map do |lane|
      samples[true, lane].eq(taken[0][0]).where.to_a.find do |at|
        at + 48_000 <= frames && samples[at...(at + 48_000), lane] == taken[0]
      end
    end.first
    expect(start).not_to be_nil
    expect(taken.map(&:to_binary).sort).to eq(lanes_of(samples[start...(start + 48_000), true]))
  end

  def write_source(path)
    bext = Loomshuttle::Formats::Bext.new(description: "", originator: "", reference: "", date: "2026-01-01", time: "00:00:00", time_reference: 0, history: "")
    writer = Loomshuttle::Formats::Wav::Writer.new(path, bext: bext, lanes: lanes)
    writer.write(Loomshuttle::Audio::Pcm24.to_wav(samples))
    writer.close
  end

  def describe_streams(port)
    stream = Loomshuttle::Formats::Sdp::Stream.new(host: "127.0.0.1", port: port, lanes: lanes, first: 1, rate: 48_000, payload_type: 97)
    File.write(File.join(@folder, "card-sends.sdp"), Loomshuttle::Formats::Sdp.write("outside", [stream], session: 1))
    File.write(File.join(@folder, "card-returns.sdp"), Loomshuttle::Formats::Sdp.write("back", [stream.with(port: Tools.free_udp_ports)], session: 1))
  end
end
