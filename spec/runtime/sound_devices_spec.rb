# frozen_string_literal: true

RSpec.describe Loomshuttle::Runtime::SoundDevices, :folder do
  include_context "with an ALSA card"

  it "lists what somebody has defined, and reads what it can do" do
    expect(described_class.list).to include("id" => described_class.id_of("twelve"), "name" => "twelve", "words" => "twelve")
    expect(described_class.look(described_class.id_of("twelve"))).to have_attributes(name: "twelve", inputs: be_positive, outputs: be_positive, format: "S24_3LE")
  end

  it "says what is not there" do
    ["hw:7,0", described_class.id_of("hw:7,0"), "twelve", "file:'|touch #{@folder}/run',raw", described_class.id_of("file:'|id'")].each do |id|
      expect { described_class.look(id) }.to raise_error(Loomshuttle::Invalid, /no such sound device now/)
    end
    expect(File.exist?(File.join(@folder, "run"))).to be(false)
  end

  # alsa-lib reads arguments behind a colon, and its file plugin runs what stands behind a bar (alsa-lib's PCM plugin documentation).
  it "lists no name that alsa-lib would take arguments from" do
    evil = ["file:'|id>x',raw", "plug:twelve", "hw:0,0,0,0", "a b", "twelve'", "tee:x,y,z", "hw:CARD=x,DEV=0", "", "x\ny"]
    good = ["twelve", "hw:PCH,0", "hw:1,0", "my-card_2"]
    expect((evil + good).grep(described_class::NAME)).to eq(good)
  end
end

# A program in place of arecord that says what ALSA's says when somebody else has the device.
RSpec.describe "A busy sound device", :folder do
  around do |example|
    File.write(File.join(@folder, "arecord"), "#!/bin/sh\n[ \"$1\" = -l ] && echo 'card 1: F8 [Fern 8], device 0: F8 [Fern 8]' && exit\n" \
                                              "echo 'arecord: main:831: audio open error: Device or resource busy' >&2\nexit 1\n")
    File.chmod(0o755, File.join(@folder, "arecord"))
    before, ENV["PATH"] = ENV.fetch("PATH"), "#{@folder}:#{ENV.fetch('PATH')}"
    example.run
  ensure
    ENV["PATH"] = before
  end

  it "is told as busy, before it is chosen and while it is used" do
    expect { Loomshuttle::Runtime::SoundDevices.look(Loomshuttle::Runtime::SoundDevices.id_of("hw:F8,0")) }
      .to raise_error(Loomshuttle::Invalid, "hw:F8,0 is busy: another program uses it.")
    device = Loomshuttle::Runtime::SoundDevices::Device.new(name: "hw:F8,0", words: "Fern 8", inputs: 2, outputs: 2, rates: [44_100, 48_000], format: "S32_LE")
    stream = Loomshuttle::Formats::Sdp::Stream.new(host: "", port: 0, lanes: 2, first: 1, rate: 48_000, payload_type: 97)
    card = Loomshuttle::Recorder::Alsa::Card.new(device, rate: 48_000, sends: [stream], returns: [stream], now: Loomshuttle::Runtime::Clock.method(:now))
    Tools.wait_until(60, "the state") do
      card.receive(0.05) { nil }
      card.state == "busy"
    end
  ensure
    card&.close
  end
end
