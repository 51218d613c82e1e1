# frozen_string_literal: true

RSpec.describe Loomshuttle::Supervisor::Options do
  it "has a default port and home, and makes a home absolute" do
    expect(described_class.parse([])).to eq(port: 4040, home: File.join(Loomshuttle::ROOT, "var"))
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

  it "refuses ports that cannot be" do
    expect { described_class.run(ports.with(web: 80)) }.to raise_error(Loomshuttle::Supervisor::Failed, /1024 to 65500/)
  end
end

RSpec.describe Loomshuttle::Supervisor::Child, :folder do
  it "gives up on what ends again and again, with its last words" do
    child = described_class.new("nothing", [], log: File.join(@folder, "log"))
    child.start
    expect do
      Tools.wait_until(60, "giving up") do
        child.watch && nil
      end
    end.to raise_error(Loomshuttle::Supervisor::Failed, /The nothing ends again and again.*No such file|cannot load/m)
  end
end
