# frozen_string_literal: true

require "open3"
require "socket"

# The C file that reads packets does what its reference in Ruby does, to the bit, whatever arrives.
RSpec.describe "Reading packets" do
  let(:native) { Loomshuttle::Runtime::Native.packets }
  let(:run) { Loomshuttle::Formats::RtpRuns::Run }

  def packet(number, timestamp, payload, source: 7) = Loomshuttle::Formats::Rtp.pack(sequence: number, timestamp: timestamp, source: source, payload: payload)
  def both(list, frame_bytes) = [Loomshuttle::Formats::RtpRuns.of(list, frame_bytes), native.runs(list, frame_bytes, run)]

  it "has the C file, as bin/test builds it" do
    expect(native).to be_a(Module)
  end

  it "joins what follows on each other, over the wrap of both counters" do
    list = [packet(65_535, (1 << 32) - 2, "abcdef"), packet(0, 0, "ghijkl"), packet(1, 2, "mnopqr")]
    expect(both(list, 3)).to all(eq([run.new(97, 65_535, (1 << 32) - 2, 7, 6, "abcdefghijklmnopqr")]))
    expect(both(list, 3).first.first.packets(3)).to eq(list.map { |bytes| Loomshuttle::Formats::Rtp.unpack(bytes) })
  end

  { "a packet is missing" => ["abc", [2, 2, "def"]], "the time jumps" => ["abc", [1, 9, "def"]], "another one sends" => ["abc", [1, 1, "def", { source: 8 }]],
    "the length changes" => ["abc", [1, 1, "defghi"]], "it comes twice" => ["abc", [0, 0, "abc"]] }.each do |what, (first, (number, timestamp, payload, more))|
    it "starts a new run where #{what}" do
      list = [packet(0, 0, first), packet(number, timestamp, payload, **more.to_h)]
      expect(both(list, 3).map { |joined| joined.map(&:payload) }).to all(eq([first, payload]))
    end
  end

  it "leaves everything else as it came: other versions, extensions, halves of frames, nothing" do
    strange = ["", "x", "\x80\x61".b, packet(0, 0, ""), packet(0, 0, "ab"), "\x90".b + packet(0, 0, "abc")[1..], "\x40".b + packet(0, 0, "abc")[1..]]
    expect(both(strange, 3)).to all(eq(strange))
  end

  it "refuses what cannot be: no frame, halves of frames, too many at once" do
    expect { native.runs([], 0, run) }.to raise_error(ArgumentError, "a frame has at least one byte")
    expect { native.integers("abcd", 1) }.to raise_error(ArgumentError, "4 bytes are not whole frames of 1 lanes")
    expect { native.planes("abcdef", 0) }.to raise_error(ArgumentError, "6 bytes are not whole frames of 0 lanes")
    expect { native.receive(0, 33, 3, run) }.to raise_error(ArgumentError, "1 to 32 packets at once")
  end

  # Each value there is, and all of them beside each other.
  it "unpacks every 24-bit sample as the reference does" do
    edges = [0, 1, -1, 8_388_607, -8_388_608, 255, 256, 65_535, -65_536]
    samples = Numo::Int32.cast(edges + Array.new(1191) { |at| (at * 7919 * 31 % (1 << 24)) - (1 << 23) }).reshape(200, 6)
    bytes = Loomshuttle::Audio::Pcm24.to_network(samples)
    there = Numo::Int32.from_binary(native.integers(bytes, 6), [6, 200]).transpose
    expect(there).to eq(samples)
    expect(Loomshuttle::Audio::Pcm24.send(:integers, bytes, 6, [0, 1, 2])).to eq(samples)
    expect(Loomshuttle::Audio::Pcm24.lanes_to_wav(bytes, 6)).to eq((0...6).map { |lane| Loomshuttle::Audio::Pcm24.to_wav(samples[true, lane].dup) })
    expect(native.planes(bytes, 6)).to eq(Loomshuttle::Audio::Pcm24.to_wav(samples.transpose.dup))
  end

  it "reads what has arrived at a socket, in order and no more than asked for, with and without the C file", :aggregate_failures do
    [native, nil].each do |way|
      allow(Loomshuttle::Runtime::Native).to receive(:packets).and_return(way)
      socket = Loomshuttle::Runtime::PacketSocket.new("127.0.0.1", 0, 3)
      sender = UDPSocket.new.tap { |one| one.connect("127.0.0.1", socket.to_io.addr[1]) }
      expect(socket.read(8)).to eq([])
      10.times { |number| sender.send(packet(number, number, "abc"), 0) }
      Tools.wait_until(10, "packets") { socket.to_io.wait_readable(0) }
      expect(socket.read(8)).to eq([run.new(97, 0, 0, 7, 3, "abc" * 8)])
      expect(socket.read(8)).to eq([run.new(97, 8, 8, 7, 3, "abc" * 2)])
    ensure
      [socket, sender].compact.each(&:close)
    end
  end

  # A million of them: FUZZED=1000000.
  it "is equal to the bit beneath the address sanitizer, whatever arrives", :folder do
    source = File.join(Loomshuttle::ROOT, "ext", "packets")
    flags = { "PACKETS_CFLAGS" => "-fsanitize=address,undefined -fno-sanitize-recover=all -g", "PACKETS_LDFLAGS" => "-fsanitize=address,undefined" }
    told, built = Open3.capture2e(flags, "#{RbConfig.ruby} #{source}/extconf.rb && make", chdir: @folder)
    expect(built).to be_success, told
    libraries = %w[libasan.so libubsan.so].map { |name| IO.popen(["gcc", "-print-file-name=#{name}"], &:read).strip }.join(" ")
    told, status = Open3.capture2e({ "LD_PRELOAD" => libraries, "ASAN_OPTIONS" => "detect_leaks=0" }, RbConfig.ruby,
                                   File.join(Loomshuttle::ROOT, "bench", "fuzz_packets.rb"), File.join(@folder, "packets.so"), ENV.fetch("FUZZED", "20000"), "3")
    expect(status).to be_success, told
    expect(told).to match(/\A\d+ packets, \d+ of them joined: equal\n\z/)
  end
end
