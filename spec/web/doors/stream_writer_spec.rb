# frozen_string_literal: true

require "socket"

RSpec.describe Loomshuttle::Web::StreamWriter do
  let(:flow) { described_class.new(now: -> { @now }).tap(&:start) }
  # Gives so many parts, and remembers how many were wanted.
  let(:source) do
    Class.new do
      attr_reader :given, :closed

      def initialize(parts) = (@left, @given = parts, 0)
      def next_part = (@left -= 1) >= 0 ? (@given += 1) && ("x" * 100_000) : nil
      def close = @closed = true
    end
  end

  before { @now = 0.0 }
  after { flow.stop }

  def listener(parts)
    ours, theirs = UNIXSocket.pair
    one = source.new(parts)
    flow.add(theirs, one)
    [ours, one]
  end

  # It once kept a processor busy for ever.
  it "lets go of a socket that was closed from outside, and does not look at it again and again" do
    flow = described_class.new
    ours, theirs = UNIXSocket.pair
    closed = false
    source = Object.new
    source.define_singleton_method(:next_part) { "x" * 1_000_000 }
    source.define_singleton_method(:close) { closed = true }
    flow.add(ours, source)
    flow.__send__(:turn)
    ours.close
    turns = Array.new(3) { flow.__send__(:turn).then { flow.size } }
    expect([turns, closed]).to eq([[0, 0, 0], true])
    theirs.close
  end

  it "writes to many at once, each as fast as he reads, and holds no more than a part for one who has paused" do
    paused, unread = listener(10_000)
    quick = Array.new(3) { listener(20).first }
    expect(quick.map { |socket| Thread.new { socket.read.bytesize } }.map(&:value)).to eq([2_000_000] * 3)
    expect(unread.given).to be < 30
    before = unread.given
    Tools.wait_until { paused.read_nonblock(400_000, exception: false) && unread.given > before }
  end

  it "ends who reads nothing for long, and who has gone" do
    paused, unread = listener(10_000)
    gone, left = listener(10_000)
    gone.close
    Tools.wait_until { left.closed }
    Tools.wait_until { unread.given.positive? }
    @now = described_class::IDLE + 1.0
    Tools.wait_until { unread.closed }
    Tools.wait_until { !flow.size.positive? }
    paused.close
  end
end

RSpec.describe Loomshuttle::Web::ByteRange do
  # RFC 9110, 14.1.2, with its examples for a length of 10 000.
  { nil => [0, 10_000, false], "bytes=0-499" => [0, 500, true], "bytes=500-999" => [500, 1000, true], "bytes=-500" => [9500, 10_000, true], "bytes=9500-" => [9500, 10_000, true],
    "bytes=9999-20000" => [9999, 10_000, true], "bytes=10000-" => nil, "bytes=5-4" => nil, "bytes=0-0,-1" => [0, 10_000, false],
    "bytes=-" => [0, 10_000, false], "lines=1-2" => [0, 10_000, false],
    "bytes=-20000" => [0, 10_000, true] }.each do |header, range|
    it("reads #{header.inspect}") { expect(described_class.of(header, 10_000)).to eq(range) }
  end
end

RSpec.describe Loomshuttle::Web::Deliveries, :folder do
  include CoreHelp

  let(:jobs) { instance_double(Loomshuttle::Web::Jobs) }
  # The groups below describe others.
  let(:deliveries) { Loomshuttle::Web::Deliveries.new(File.join(@folder, "home"), jobs, folders: Loomshuttle::Web::AllowedFolders.new([File.join(@folder, "usb")])) } # rubocop:disable RSpec/DescribedClass

  before { allow(jobs).to receive(:all) { @open.to_a } }

  def usb(*path) = File.join(@folder, "usb", *path).tap { |one| FileUtils.mkdir_p(File.dirname(one)) }

  it "looks only below the folders that were allowed, also through links" do
    FileUtils.mkdir_p([usb("night"), File.join(@folder, "usb2"), File.join(@folder, "private")])
    File.symlink(File.join(@folder, "private"), usb("link"))
    expect(deliveries.folder_of({ "folder" => usb("night") })).to eq(File.realpath(usb("night")))
    ["/", "/etc", File.join(@folder, "private"), usb("link"), File.join(@folder, "usb2"), usb("night/../../private")].each do |folder|
      expect { deliveries.folder_of({ "folder" => folder }) }.to raise_error(Loomshuttle::Invalid, /LOOMSHUTTLE_DELIVERIES/), folder
    end
    # What lies outside is not told apart from nothing at all.
    ["nowhere", "", "/nowhere", "a\0b", "/etc/passwd", "/etc/nothing", usb("link/nothing"), "/root/x.zip"].each do |folder|
      expect { deliveries.folder_of({ "folder" => folder }) }.to raise_error(Loomshuttle::Invalid, /is outside the allowed import folders/), folder.inspect
    end
    expect { deliveries.folder_of({ "folder" => File.join(@folder, "usb", "nothing") }) }.to raise_error(Loomshuttle::Invalid, /There is no folder/)
  end

  it "finds what people deliver, without following links, and survives names that nobody can read" do
    FileUtils.mkdir_p(usb("a/b/c/d/e/f/g/h"))
    [usb("Tuba.wav"), usb("a/b/Fiddle.FLAC"), usb("notes.txt"), usb(".hidden.wav"), usb("a/b/c/d/e/f/g/h/deep.wav"), usb("bad\xFF.wav".b)].each { |path| File.write(path, "x") }
    File.symlink("/", usb("all"))
    found, problems = Loomshuttle::Web::FolderWalk.new(File.join(@folder, "usb"), described_class::KINDS).run
    expect(found).to eq(["Tuba.wav", "a/b/Fiddle.FLAC"])
    expect(problems.map { |one| one[:where] }).to contain_exactly("notes.txt", "bad?.wav", "a/b/c/d/e/f/g", "all")
  end

  it "finds a MIDI file among any number of files that are not audio" do
    150.times { |n| File.write(usb("a#{n}.txt"), "") }
    File.write(usb("zz tempo.MID"), "")
    _, problems = Loomshuttle::Web::FolderWalk.new(File.join(@folder, "usb"), described_class::KINDS, beside: described_class::MIDI).run
    expect([problems.size.between?(100, 101), problems.map { |one| one[:where] }.include?("zz tempo.MID")]).to eq([true, true])
  end

  it "gives up on a folder that is not a delivery" do
    stub_const("Loomshuttle::Web::FolderWalk::LOOKED_AT", 20)
    30.times { |n| File.write(usb("#{n}.txt"), "") }
    expect { Loomshuttle::Web::FolderWalk.new(File.join(@folder, "usb"), described_class::KINDS).run }.to raise_error(Loomshuttle::Invalid, /contains too much/)
  end

  it "takes no file for sound that claims what no sound has, and leaves times that cannot be true" do
    FileUtils.mkdir_p(usb("x"))
    Tools.run("sox", "-D", "-n", "-r", "48000", "-b", "16", "-c", "1", usb("good.wav"), "synth", "0.1", "sine", "440")
    bytes = File.binread(usb("good.wav"))
    File.binwrite(usb("slow.wav"), bytes.dup.tap { |all| all[24, 8] = [1, 2].pack("VV") }) # 1 Hz
    items, problems = deliveries.look({ "folder" => File.join(@folder, "usb") }, straight(4))
    expect([items.map(&:title), problems.map { |one| one[:where] }]).to eq([["good"], ["slow.wav"]])
    times = [0, (2**63) - 1, 10].map do |time|
      Loomshuttle::Delivery::Sound.new(path: "/#{time}.wav", name: Loomshuttle::Delivery::Name.parse("#{time} x.wav"), rate: 48_000, lanes: 1, frames: 480, codec: "pcm",
                                       time_reference: time, called: [])
    end
    made = Loomshuttle::Delivery::Plan.of(times, straight(4))
    expect(made.map(&:offset)).to eq([0, 0, 0])
    expect(made.first.notes).to include(/are too far apart/)
  end

  it "clears away what was used or given up, by age and size, and nothing that a job needs" do
    old, needed, fresh = Array.new(3) { deliveries.create }
    [old, needed, fresh].each { |id| deliveries.add(id, "a.wav", StringIO.new("x" * 100)) }
    root = File.join(@folder, "home", "deliveries")
    age = ->(id, days) { [File.join(root, id, "a.wav"), File.join(root, id)].each { |path| File.utime(Time.now - (days * 86_400), Time.now - (days * 86_400), path) } }
    [old, needed].each { |id| age.call(id, 9) }
    @open = [{ "state" => "waiting", "items" => [{ "files" => [File.join(root, needed, "a.wav")] }] }]
    deliveries.clear
    expect(Dir.children(root)).to contain_exactly(needed, fresh)
    stub_const("Loomshuttle::Web::SentFiles::BYTES", 50)
    deliveries.clear
    expect(Dir.children(root)).to contain_exactly(needed, fresh) # more than is kept, but it may still be on its way
    age.call(fresh, 2)
    deliveries.in_use = -> { [File.join(root, fresh)] }
    deliveries.clear
    expect(Dir.children(root)).to contain_exactly(needed, fresh) # somebody is looking at it
    deliveries.in_use = -> { [] }
    deliveries.clear
    expect(Dir.children(root)).to eq([needed])
    deliveries.used({ "items" => [{ "files" => [File.join(root, needed, "a.wav"), usb("other", "b.wav")] }] })
    expect(Dir.children(root)).to eq([])
  end

  it "refuses what is too much, or finds no room, before any of it is sent, and while it is" do
    expect { deliveries.create(bytes: 41 << 30) }.to raise_error(Loomshuttle::Invalid, /44.0 GB are too much to upload; 42.9 GB is the limit/)
    allow(Loomshuttle::Runtime::FreeBytes).to receive(:of).and_return(3 << 30)
    expect { deliveries.create(bytes: (2 << 30) + 1) }.to raise_error(Loomshuttle::Full, /no room for 2.1 GB: 2.1 GB are free/)
    id = deliveries.create(bytes: 2 << 30)
    stub_const("Loomshuttle::Web::SentFiles::BYTES", 150)
    deliveries.add(id, "a.wav", StringIO.new("x" * 100))
    expect { deliveries.add(id, "b.wav", StringIO.new("x" * 100)) }.to raise_error(Loomshuttle::Invalid, /more than 0.0 GB/)
    allow(IO).to receive(:copy_stream).and_raise(Errno::ENOSPC)
    expect { deliveries.add(id, "c.wav", StringIO.new("x")) }.to raise_error(Loomshuttle::Full, /became full while c.wav was saved/)
    expect(Dir.children(File.join(@folder, "home", "deliveries", id))).to eq(["a.wav"])
  end

  it "lets a body in by its size and by what the disk has room for, at any time while it comes" do
    free = 10 << 30
    room = Loomshuttle::Web::UploadRoom.new(4 << 30, free: -> { free }, reserve: 1 << 30)
    expect([room < (4 << 30), room < (4 << 30) + 1]).to eq([false, true])
    free = 2 << 30
    expect([room < (1 << 30), room < (1 << 30) + 1]).to eq([false, true])
    free = 0
    expect([room < (1 << 20), room < (32 << 20)]).to eq([false, true]) # JSON gets in
    free = nil
    expect(room < (4 << 30)).to be(false)
  end

  describe Loomshuttle::Web::Inspections do
    let(:looks) { described_class.new(deliveries).tap(&:start) }

    after { looks.stop }

    it "looks in its own time, and tells how that went" do
      FileUtils.mkdir_p(usb("x"))
      source = { "folder" => File.join(@folder, "usb") }
      id = looks.begin(source, straight(4))
      expect(Tools.wait_until { looks.find(id).then { |look| look if look.state != "looking" } }).to have_attributes(state: "failed", error: /no sound file/)
      expect { looks.begin({ "folder" => "/etc" }, straight(4)) }.to raise_error(Loomshuttle::Invalid)
      expect { looks.find("x") }.to raise_error(Loomshuttle::Invalid, /scan again/)
    end
  end
end
