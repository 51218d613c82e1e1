# frozen_string_literal: true

# The recorder on a sound card of the computer: chosen while it runs on the desk's card, and taken from then on.
RSpec.describe "The recorder on an ALSA device", :folder do
  include_context "with an ALSA card"

  let(:recorder) { RunningRecorder.new(@folder) }
  # As many lanes as ALSA's file plugin claims, and we take.
  let(:lanes) { Loomshuttle::Runtime::SoundDevices::MOST_LANES }
  let(:samples) { Numo::Int32.cast(Numo::Int32.from_binary(Random.new(9).bytes(96_000 * lanes * 4)) >> 8).reshape(96_000, lanes) }

  before do
    File.binwrite(infile, Loomshuttle::Audio::Pcm24.to_wav(samples))
    recorder.on_card(Tools.free_udp_ports)
    recorder.start
  end

  after { recorder.stop }

  # The supervisor would do this.
  def started_anew
    Tools.wait_until(60, "the recorder to end") { Process.wait(recorder.pid, Process::WNOHANG) }
    recorder.start
  end

  def choose(name) = recorder.call("device.choose", id: name && Loomshuttle::Runtime::SoundDevices.id_of(name))
  def card = recorder.call("status")["card"]

  it "lists devices, says what is not there, and captures from the one that is chosen" do
    expect(card).to include("device" => nil, "words" => "the desk's card")
    expect(recorder.call("devices")).to include("id" => Loomshuttle::Runtime::SoundDevices.id_of("twelve"), "words" => "twelve")
    expect(choose("hw:7,0")["message"]).to include("no such sound device now")
    evil = File.join(@folder, "run")
    expect(recorder.call("device.choose", id: "file:'|touch #{evil}',raw")["message"]).to include("no such sound device now")
    expect(recorder.call("device.choose", name: "twelve")["message"]).to include("Unknown parameter name")
    expect(File.exist?(evil)).to be(false)
    expect(choose("twelve")).to eq("device" => "twelve")
    started_anew
    Tools.wait_until(60, "a clock") { recorder.call("status")["clock"] }
    expect(card).to include("device" => "twelve", "state" => "running", "lanes" => lanes)
    recorder.call("configure", tracks: [{ number: 1, name: "Nine", inputs: [9], outputs: [], armed: true }])
    recorder.call("capture.start", name: "Card", frames: 24_000, back: 0.3)
    folder, manifest = recorder.finished_take
    expect(manifest).to include("state" => "complete", "frames" => 24_000)
    heard = Loomshuttle::Formats::Wav::Reader.new(File.join(folder, manifest["tracks"][0]["file"])).read[true, 0]
    at = (0...(96_000 - 24_000)).find { |start| samples[start, 8] == heard[0] && samples[start...(start + 100), 8] == heard[0...100] }
    expect(samples[at...(at + 24_000), 8]).to eq(heard)
    choose(nil)
    started_anew
    expect(card["device"]).to be_nil
  end

  it "says that its device is gone, starts without it all the same, and tries again" do
    choose("twelve")
    Tools.wait_until(60, "the recorder to end") { Process.wait(recorder.pid, Process::WNOHANG) }
    File.write(ENV.fetch("ALSA_CONFIG_PATH"), "</usr/share/alsa/alsa.conf>\n") # unplugged
    recorder.start
    Tools.wait_until(60, "the state") { card["state"] == "gone" }
    expect(recorder.call("capture.start")["message"]).to include("No audio from the desk")
    File.write(ENV.fetch("ALSA_CONFIG_PATH"), "</usr/share/alsa/alsa.conf>\npcm.twelve { type file slave { pcm null } file /dev/null infile \"#{infile}\" format raw }\n")
    Tools.wait_until(60, "the device again") { card["state"] == "running" && recorder.call("status")["clock"] }
  end
end
