# frozen_string_literal: true

RSpec.describe Loomshuttle::Recorder::SecondCopy, :folder do
  let(:takes) { File.join(@folder, "takes").tap { |path| FileUtils.mkdir_p(path) } }
  let(:second) { File.join(@folder, "second").tap { |path| FileUtils.mkdir_p(path) } }
  let(:fstab) { File.join(@folder, "fstab") }
  # Memory, and so a disk of its own (Linux).
  let(:other) { Dir.mktmpdir("loomshuttle-test", "/dev/shm") }

  before { File.write(fstab, "# disks\n/dev/sda1 / ext4 defaults 0 1\n") }
  after { FileUtils.rm_rf(other) }

  def look(folder, mounts: []) = described_class.look(folder, takes, fstab: fstab, mounts: mounts)

  it "takes a folder on another disk, and makes it there where only its name is new" do
    expect(look(other)).to have_attributes(problem: nil, note: nil)
    expect(look(File.join(other, "copies"))).to have_attributes(problem: nil, note: nil)
    expect(File.directory?(File.join(other, "copies"))).to be(true)
  end

  it "says that it is on the same disk as the takes" do
    expect(look(second)).to have_attributes(problem: nil, note: /same disk as the takes/)
  end

  it "never makes one on the disk of the takes: the disk that it should be on may not be plugged in" do
    expect(look(File.join(@folder, "stick")).problem).to match(/stick does not exist. Plug in its disk, or create the folder/)
    expect(look("/nowhere/at/all").problem).to include("does not exist")
    expect(Dir.children(@folder)).not_to include("stick")
  end

  it "knows a mount point with nothing mounted, as the system lists it" do
    stick = File.join(@folder, "my stick", "copies").tap { |path| FileUtils.mkdir_p(path) }
    File.write(fstab, "UUID=12 #{File.dirname(stick).gsub(' ') { '\\040' }} ext4 noauto 0 2\n", mode: "a")
    expect(look(stick).problem).to match(/not mounted: .*my stick is empty/)
    File.write(fstab, "tmpfs /dev/shm tmpfs defaults 0 0\n", mode: "a")
    expect(look(other).problem).to be_nil
  end

  it "knows a folder where disks are mounted that lies on the system disk", if: File.stat("/").dev == File.stat(Dir.tmpdir).dev do
    expect(look(second, mounts: [@folder]).problem).to include("not mounted; the folder lies on the system disk")
  end

  it "reports a path that is not a folder or not writable" do
    File.write(File.join(@folder, "file"), "")
    expect(look(File.join(@folder, "file")).problem).to include("is not a folder")
    allow(File).to receive(:writable?).and_return(false)
    expect(look(other).problem).to include("cannot be written to")
  end

  describe "a capture" do
    include_context "with a virtual capture"

    it "goes on in the first folder alone, says why, and makes nothing elsewhere" do
      rig.run(0.2)
      stick = File.join(@folder, "stick")
      recorder.configure(tracks: recorder.status["tracks"], mirror: stick)
      recorder.look_at_mirror
      expect(recorder.status).to include("mirror_problem" => /stick does not exist/)
      recorder.capture_start(name: "One")
      rig.run(0.2)
      expect(recorder.status["capture"]["warning"]).to match(/mirror in .*stick stopped after 0.0 s: The folder .*stick does not exist/)
      expect(recorder.capture_stop).to include("frames" => 9600)
      expect(File.exist?(stick)).to be(false)
    end
  end
end
