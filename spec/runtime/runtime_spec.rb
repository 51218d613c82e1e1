# frozen_string_literal: true

RSpec.describe Loomshuttle::Runtime::Worker do
  it "goes on after a surprise, logs it with time and place, and counts it in health" do
    turns = 0
    worker = nil
    expect do
      worker = described_class.start("does a thing") { |one| (turns += 1) < 3 ? raise(ArgumentError, "odd") : one.rest(60) }
      Tools.wait_until { turns == 3 }
    end.to output(/\A\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d\.\d{3}.* ERROR loomshuttle\[\d+\] does a thing: .*odd \(ArgumentError\)/).to_stderr
    expect(Loomshuttle::Runtime::Health.threads.find { |one| one["name"] == "does a thing" }).to include("alive" => true, "troubles" => 2, "last_trouble" => "ArgumentError: odd")
  ensure
    worker&.stop
    expect(Loomshuttle::Runtime::Health.threads.map { |one| one["name"] }).not_to include("does a thing")
  end

  it "ends also what waits for something that never comes" do
    worker = described_class.start("waits") { Queue.new.pop }
    worker.stop
    expect(worker).not_to be_alive
  end
end

RSpec.describe Loomshuttle::Runtime::Mailbox do
  it "hands on in order, waits for a while only, and counts what it let go" do
    box = described_class.new(most: 3)
    expect(box.pop(0.01)).to be_nil
    5.times { |n| box << n }
    expect([box.missed, box.missed, box.pop(1), box.pop(1), box.pop(1), box.pop(0)]).to eq([2, 0, 2, 3, 4, nil])
    waiting = Thread.new { box.pop }
    box << :late
    expect(waiting.value).to eq(:late)
    box.close
    expect(box.pop).to be_nil
  end
end

RSpec.describe Loomshuttle::Runtime::LineSocket do
  let(:pair) { UNIXSocket.pair }
  let(:line) { described_class.new(pair.first, most: 1 << 20) }

  after { pair.each(&:close) }

  it "writes and reads whole lines of any size" do
    long = "x" * 900_000
    reading = Thread.new { described_class.new(pair.last).then { |other| [other.gets(60), other.gets(60)] } }
    line.puts(long, 60)
    line.puts("short", 60)
    expect(reading.value).to eq([long, "short"])
  end

  it "gives up on who does not answer, does not read, or sends without end" do
    expect { line.gets(0.05) }.to raise_error(described_class::Late, /does not answer/)
    expect { 100.times { line.puts("y" * 100_000, 0.05) } }.to raise_error(described_class::Late, /does not read/)
    sending = Thread.new { 40.times { pair.last.write("z" * 50_000) } }
    expect { line.gets(60) }.to raise_error(described_class::Late, /longer than/)
    sending.kill
  end
end

RSpec.describe Loomshuttle::Runtime::Programs, :folder do
  it "runs words and no shell, and ends what takes too long or says too much" do
    expect(described_class.run("echo", "$(id)", "'|touch #{@folder}/x'")).to eq(["$(id) '|touch #{@folder}/x'\n", true])
    expect(described_class.run("sleep", "60", seconds: 0.1)).to eq(["", false])
    expect(described_class.run("head", "-c", "3000000", "/dev/zero", most: 100_000).first.bytesize).to be < 200_000
    expect(described_class.run("false")).to eq(["", false])
  end
end

# Reference: df (GNU coreutils).
RSpec.describe Loomshuttle::Runtime::FreeBytes, :folder do
  it "tells what df tells, and nothing of a folder that is not there" do
    told = -> { Tools.run("df", "--output=avail", "-B1", "--", @folder).lines.last.to_i }
    Tools.wait_until(10, "a disk that nobody writes to just now") { described_class.of(@folder) == told.call }
    expect([described_class.of("/nowhere at all"), described_class.of("a\0b")]).to eq([nil, nil])
  end

  it "leaves a disk alone that does not answer, until it does" do
    go = Queue.new
    asked = 0
    allow(described_class).to receive(:ask) { (asked += 1) && go.pop }
    expect(Array.new(3) { described_class.of("/gone", patience: 0.05) }).to eq([nil, nil, nil])
    expect(asked).to eq(1)
    go << 5
    go << 7
    expect(Tools.wait_until { described_class.of("/gone", patience: 5) }).to eq(7)
  end
end

RSpec.describe Loomshuttle::Runtime::Files, :folder do
  let(:from) { File.join(@folder, "from").tap { |path| FileUtils.mkdir_p(path) && File.write(File.join(path, "a"), "sound") } }
  let(:to) { File.join(@folder, "to") }

  it "moves to another disk whole, or not at all" do
    allow(File).to(receive(:rename).and_wrap_original { |rename, *names| names.first == from ? raise(Errno::EXDEV) : rename.call(*names) })
    described_class.move(from, to)
    expect([Dir.children(@folder), File.read(File.join(to, "a"))]).to eq([["to"], "sound"])
  end

  it "leaves everything as it was when the other disk is full" do
    allow(File).to receive(:rename).and_raise(Errno::EXDEV)
    allow(FileUtils).to receive(:cp_r).and_raise(Errno::ENOSPC)
    expect { described_class.move(from, to) }.to raise_error(Errno::ENOSPC)
    expect([Dir.children(@folder), Dir.children(from)]).to eq([["from"], ["a"]])
  end
end

RSpec.describe Loomshuttle::Runtime::Aside, :folder do
  it "puts away what cannot be read, says why, and reads the rest" do
    aside = described_class.new(@folder)
    path = File.join(@folder, "some.json")
    File.write(path, "[]")
    expect { expect(aside.read(path) { |data| Loomshuttle::Shape.record({}).check(data, "some.json") }).to be_nil }.to output(/put aside/).to_stderr
    expect(File.exist?(path)).to be(false)
    expect(aside.list).to match([include("name" => "some.json", "why" => "some.json must be an object.", "at" => /\A20/)])
    File.write(path, "{}")
    expect(aside.read(path) { |data| Loomshuttle::Shape.record({}).check(data) }).to eq({})
  end
end

RSpec.describe Loomshuttle::Runtime::UnixSockets, :folder do
  it "listens and connects at a path that is longer than the kernel takes" do
    path = File.join(@folder, "Bühne links " * 12, "recorder.sock").tap { |long| FileUtils.mkdir_p(File.dirname(long)) }
    expect { UNIXServer.new(path) }.to raise_error(ArgumentError)
    server = described_class.listen(path)
    described_class.connect(path).tap { |socket| socket.puts("heard") }.close
    expect(server.accept.gets).to eq("heard\n")
  ensure
    server&.close
  end
end

RSpec.describe Loomshuttle::Runtime::Programs do
  it "ends what says nothing any more and does not end" do
    expect(described_class.run("sh", "-c", "echo said; exec >&-; sleep 1000", seconds: 0.5)).to eq(["said\n", false])
    expect(described_class.run("sh", "-c", "echo said; exit 3", seconds: 30)).to eq(["said\n", false])
    expect(described_class.run("echo", "well", seconds: 30)).to eq(["well\n", true])
  end

  it "lets a program have so much memory and processor time, and no more" do
    expect(described_class.run(RbConfig.ruby, "-e", "x = 'x' * (1 << 30); puts x.size", seconds: 30, memory: 512 << 20).last).to be(false)
    expect(described_class.run(RbConfig.ruby, "-e", "loop {}", seconds: 60, processor: 1).last).to be(false)
  end
end

RSpec.describe Loomshuttle::Runtime::Spool, :folder do
  it "keeps temporary files below the home folder, and begins with none" do
    before = ENV.fetch("TMPDIR", nil)
    FileUtils.mkdir_p(File.join(@folder, "spool", "web"))
    File.write(File.join(@folder, "spool", "web", "left over"), "x")
    described_class.use(@folder, "web")
    expect([Dir.tmpdir, Dir.children(Dir.tmpdir)]).to eq([File.join(@folder, "spool", "web"), []])
  ensure
    ENV["TMPDIR"] = before
  end
end

RSpec.describe Loomshuttle::Runtime::Task do
  it "gives its result, and has a name while it works" do
    go = Queue.new
    task = described_class.start("does one thing") { go.pop }
    expect(Thread.list.map(&:name)).to include("does one thing")
    expect(task.join(0.01)).to be_nil
    go << 7
    expect([task.value, task.join, task.alive?]).to eq([7, task, false])
  end

  it "logs and counts an error, and gives nothing then" do
    before = Loomshuttle::Runtime::Health.troubles.size
    expect { expect(described_class.start("fails") { raise ArgumentError, "odd" }.value).to be_nil }.to output(/fails: .*odd \(ArgumentError\)/).to_stderr
    expect(Loomshuttle::Runtime::Health.troubles.size).to eq(before + 1)
  end

  it "is the only other way to a thread" do
    code = Dir[File.join(Loomshuttle::ROOT, "{core,runtime,recorder,player,porter,stand_ins,store,web,command_line,supervisor,processes}", "**", "*.rb")]
    makers = code.select { |file| File.read(file).match?(/(?<![\w:])(::)?Thread\.(new|start|fork)\b(?!\(from:)/) }.map { |file| file.delete_prefix("#{Loomshuttle::ROOT}/") }
    expect(makers).to match_array(%w[runtime/threads/task.rb runtime/threads/worker.rb])
  end
end
