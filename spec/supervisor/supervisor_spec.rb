# frozen_string_literal: true

RSpec.describe Loomshuttle::Supervisor::Options do
  it "has a default port and home, and makes a home absolute" do
    expect(described_class.parse([])).to eq(port: nil, home: File.join(Loomshuttle::ROOT, "var"))
    expect(described_class.parse(%w[--port 5000 --home x])).to eq(port: 5000, home: File.expand_path("x"))
  end

  [%w[--port many], %w[--nonsense], %w[--home]].each do |arguments|
    it("refuses #{arguments.join(' ')} in a sentence") { expect { described_class.parse(arguments) }.to raise_error(Loomshuttle::Supervisor::Failed, %r{bin/demo knows}) }
  end
end

RSpec.describe Loomshuttle::Supervisor::PortCheck do
  let(:ports) { Loomshuttle::Supervisor::Ports.new(web: 45_000) }

  it "keeps the ports of one instance apart from each other, and from those of the next" do
    all = lambda do |one|
      [one.web, one.database, one.osc] + (0..2).flat_map { |n| [one.sends + (2 * n), one.returns + (2 * n)] }
    end
    expect((all.call(ports) + all.call(ports.with(web: ports.web + 40))).tally.values.uniq).to eq([1])
  end

  it "names the port that is taken" do
    socket = UDPSocket.new.tap { |one| one.bind("127.0.0.1", ports.returns) }
    expect { described_class.run(ports) }.to raise_error(Loomshuttle::Supervisor::Failed, /UDP port #{ports.returns} is in use/)
  ensure
    socket&.close
  end

  # With one of them a browser test in two hundred found an empty page.
  it "refuses ports that no browser opens" do
    [4045, 6000, 6667, 10_080].each do |port|
      expect { described_class.run(ports.with(web: port)) }.to raise_error(Loomshuttle::Supervisor::Failed, /Browsers open nothing on port #{port}/)
    end
  end

  it "refuses ports that cannot be" do
    expect { described_class.run(ports.with(web: 80)) }.to raise_error(Loomshuttle::Supervisor::Failed, /1024 to 65500/)
  end
end

RSpec.describe Loomshuttle::Supervisor::Child, :folder do
  let(:log) { File.join(@folder, "log") }
  let(:child) { described_class.new("nothing", [], log: log, now: -> { @now }) }
  let(:words) { [] }

  before { @now = 0.0 }
  after { child.stop }

  # Waits for the end of the process that was started last.
  def ended = Tools.wait_until(60, "its end") { child.watch&.then { |one| words << one } }

  # Lets time pass until it is started again. @return [Float] how long that took
  def pause
    from = @now
    Tools.wait_until(60, "the next start") { (@now += 0.25) && child.watch.nil? && child.instance_variable_get(:@pid) }
    @now - from
  end

  it "gives up alone on what ends again and again, with its last words, and tries it again with growing pauses" do
    child.start
    4.times { ended && pause }
    expect([child.report["state"], words.uniq]).to eq(["running", ["The nothing ended and was restarted."]])
    ended
    expect(words.last).to match(/\AThe nothing keeps failing; retrying every 5 s. Last error: .*nothing.rb/)
    expect(child.report).to include("name" => "nothing", "state" => "given up", "words" => words.last)
    pauses = Array.new(3) { pause.tap { ended } }
    expect(pauses).to match([be_within(0.3).of(5), be_within(0.3).of(10), be_within(0.3).of(20)])
  end

  it "starts what was given up without what it may have died of" do
    script = File.join(Loomshuttle::ROOT, "processes", "nothing.rb")
    File.write(script, "puts ENV.fetch('LOOMSHUTTLE_CAUTIOUS', 'bold'); $stdout.flush; exit(1)")
    child.start
    5.times { ended && pause }
    ended
    expect(File.readlines(log, chomp: true)).to eq((["bold"] * 5) + ["1"])
  ensure
    FileUtils.rm_f(script)
  end

  it "starts at once what ended well, as a desk does that starts again, however often" do
    script = File.join(Loomshuttle::ROOT, "processes", "nothing.rb")
    File.write(script, "exit(0)")
    child.start
    8.times { ended && (@now += 1) && child.watch }
    expect(child).not_to be_given_up
  ensure
    FileUtils.rm_f(script)
  end
end

RSpec.describe Loomshuttle::Supervisor::Home, :folder do
  it "belongs to its user alone, also one that was open before" do
    path = File.join(@folder, "home")
    FileUtils.mkdir_p(File.join(path, "takes"), mode: 0o755)
    described_class.new(path).prepare
    modes = ["", "takes", "logs", "jobs"].to_h { |name| [name, File.stat(File.join(path, name)).mode & 0o777] }
    # As root, PostgreSQL's user has to walk through it; he sees nothing there.
    expect(modes).to eq("" => Process.uid.zero? ? 0o710 : 0o700, "takes" => 0o700, "logs" => 0o700, "jobs" => 0o700)
  end
end
