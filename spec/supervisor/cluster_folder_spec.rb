# frozen_string_literal: true

# As root, PostgreSQL runs as another user, who may not be able to enter the home folder. Anybody else runs it in the home.
RSpec.describe Loomshuttle::Supervisor::ClusterFolder, :folder do
  let(:outside) { File.join(@folder, "outside") }
  let(:closed) { File.join(@folder, "closed").tap { |path| FileUtils.mkdir_p(path, mode: 0o700) } }
  let(:home) { File.join(closed, "var").tap { |path| FileUtils.mkdir_p(path) } }

  before { File.chmod(0o755, @folder) }

  def place(home) = described_class.new(home, outside: outside)

  def make(home)
    place(home).tap do |one|
      one.prepare
      FileUtils.touch(File.join(one.path, described_class::MADE))
    end
  end

  it "lies in the home folder where the server's user can enter it" do
    File.chmod(0o755, closed)
    expect(place(home).prepare).to eq(File.join(home, "postgres"))
  end

  context "when the home folder is closed to the server's user", if: Process.uid.zero? do
    it "lies outside, belongs to that user alone, and is found again" do
      made = make(home)
      expect(made.path).to start_with(outside)
      expect([Etc.getpwuid(File.stat(made.path).uid).name, File.stat(made.path).mode & 0o777]).to eq(["postgres", 0o700])
      expect(place(home)).to be_made.and have_attributes(path: made.path)
      expect(place(home).prepare).to eq(made.path)
    end

    it "moves out, with all that is in it, once the home has been closed" do
      File.chmod(0o755, closed)
      inside = make(home).path
      File.write(File.join(inside, "all shows"), "here")
      File.chmod(0o700, closed)
      moved = place(home).prepare
      expect(moved).to start_with(outside)
      expect(File.read(File.join(moved, "all shows"))).to eq("here")
      expect(place(home)).to be_made
    end

    it "goes with a home that was moved, but not with a copy of it" do
      made = make(home).path
      copy = File.join(closed, "copy")
      FileUtils.cp_r(home, copy)
      expect(place(copy)).not_to be_made
      expect(place(copy).prepare).not_to eq(made)
      moved = File.join(closed, "moved")
      File.rename(home, moved)
      expect(place(moved)).to be_made.and have_attributes(prepare: made)
      FileUtils.mkdir_p(home) # somebody clones there again
      expect(place(home)).not_to be_made
      expect(place(moved)).to be_made
    end

    it "says so when the folder outside has gone, instead of beginning with nothing" do
      made = make(home)
      FileUtils.rm_rf(made.path)
      expect { place(home).prepare }.to raise_error(Loomshuttle::Supervisor::Failed, /was in #{made.path}, which is missing/)
    end

    it "runs a cluster as the user who made it" do
      data = File.join(home, "postgres", "data").tap { |path| FileUtils.mkdir_p(path) }
      FileUtils.chown("daemon", nil, data)
      expect(place(home).user).to eq("daemon")
    end
  end
end

RSpec.describe Loomshuttle::Supervisor::PortChoice, :folder do
  let(:ports) { Loomshuttle::Supervisor::Ports }

  # Takes what is asked for as free, but for some.
  def taken(*list)
    allow(Loomshuttle::Supervisor::PortCheck).to receive(:run) { |one| raise Loomshuttle::Supervisor::Failed, "taken" if list.include?(one.web) }
  end

  it "takes the first free ones, and those again at the next start" do
    taken(4040, 4080)
    expect(described_class.ports(nil, @folder).web).to eq(4120)
    taken
    expect(described_class.ports(nil, @folder).web).to eq(4120)
    expect(Loomshuttle::Runtime::InstancePort.of(@folder)).to eq(4120)
  end

  it "takes the ones that were named, or none" do
    taken(4080)
    expect { described_class.ports(4080, @folder) }.to raise_error(Loomshuttle::Supervisor::Failed)
    expect(Loomshuttle::Runtime::InstancePort.of(@folder)).to eq(4040)
    expect(described_class.ports(5000, @folder).web).to eq(5000)
  end
end
