# frozen_string_literal: true

require "securerandom"

# Jobs that cannot be done, and a disk that somebody else needs.
RSpec.describe Loomshuttle::Porter::Server, :folder do
  let(:root) { File.join(@folder, "jobs") }
  let(:jobs) { Loomshuttle::Web::Jobs.new(@folder) }
  let(:porter) { described_class.new(home: @folder) }
  let(:rig) { VirtualRig.new(home: @folder).patch_straight(4) }
  let(:take) do
    rig.run(0.2)
    rig.recorder.capture_start(name: "Set", frames: 48_000)
    rig.run(1.2)
    Loomshuttle::Recorder::Manifest.all(rig.recorder.takes).first.then { |folder, manifest| manifest.merge("folder" => folder) }
  end

  # Does what there is to do, as the process would.
  def work_off
    thread = Thread.new { porter.run }
    Tools.wait_until(60, "the jobs") { jobs.all.none? { |job| %w[waiting running].include?(job["state"]) } }
  ensure
    porter.stop
    thread&.join(10)
  end

  def damaged(text)
    id = SecureRandom.uuid
    FileUtils.mkdir_p(File.join(root, id))
    File.binwrite(File.join(root, id, "job.json"), text)
    id
  end

  it "does what it can, beside jobs that cannot be read" do
    good = jobs.export(take, form: "zip")
    whole = JSON.generate(good)
    texts = ["", "[]", "{", whole[0, whole.size / 2], JSON.generate(good.except("made_at")), JSON.generate(good.merge("made_at" => 7)), JSON.generate(good.merge("items" => [])),
             JSON.generate(good.merge("kind" => "magic")), "\xFF\xFE{}", JSON.generate(good.merge("name" => "../../x")), JSON.generate(good), "[" * 5000]
    ids = texts.map { |text| damaged(text) }
    work_off
    states = jobs.all.to_h { |job| [job["id"], job["state"]] }
    expect(states.slice(*ids).values.uniq).to eq(["unreadable"])
    expect(states[good["id"]]).to eq("done")
    ids.each { |id| jobs.delete(id) }
    expect(jobs.all.size).to eq(1)
  end

  it "tries a job that ended it no more than three times, and none of them when it is cautious" do
    job = jobs.export(take, form: "zip")
    path = File.join(root, job["id"], "job.json")
    File.write(path, JSON.generate(job.merge("state" => "running", "tries" => 3)))
    work_off
    expect(jobs.find(job["id"])).to include("state" => "failed", "error" => /Failed 3 times/)
    File.write(path, JSON.generate(job.merge("state" => "running", "tries" => 1)))
    described_class.new(home: @folder, cautious: true).work(Loomshuttle::Porter::Job.open(root).first)
    expect(jobs.find(job["id"])["state"]).to eq("failed")
  end

  it "goes on after a disk that is so full that not even its state can be written" do
    jobs.export(take, form: "zip")
    full = true
    allow(Loomshuttle::Runtime::Files).to(receive(:replace).and_wrap_original { |write, *rest| full ? raise(Errno::ENOSPC) : write.call(*rest) })
    allow(Loomshuttle::Runtime::Log).to receive(:surprise)
    thread = Thread.new { porter.run }
    Tools.wait_until { porter.instance_variable_get(:@over).any? }
    full = false
    Tools.wait_until { jobs.all.first["state"] == "failed" }
    expect(jobs.all.first["error"]).to include("No space left")
    expect(thread).to be_alive
    expect(Loomshuttle::Runtime::Log).to have_received(:surprise).at_least(:once)
  ensure
    porter.stop
    thread&.join(10)
  end

  it "ends an export that would take what the disk has left, and clears away what was made" do
    job = jobs.export(take, form: "zip")
    allow(Loomshuttle::Runtime::FreeBytes).to receive(:of).and_return((512 << 20) + 5)
    work_off
    expect(jobs.find(job["id"])).to include("state" => "failed", "error" => /The disk has no room for it/)
    expect(Dir.children(File.join(root, job["id"]))).to eq(["job.json"])
  end

  describe Loomshuttle::Porter::Room do
    let(:room) { described_class.new(root, rig.recorder.takes, free: ->(_) { @free }) }

    before { FileUtils.mkdir_p(root) }

    # Four lanes of 24 bits at 48 kHz for half an hour, and half a GiB.
    it "keeps half an hour for the take under way, and says how much is missing" do
      rig.run(0.2)
      rig.recorder.capture_start
      @free = (512 << 20) + (4 * 48_000 * 3 * 1800) + 1000
      expect { room.check(1000) }.not_to raise_error
      another = described_class.new(root, rig.recorder.takes, free: ->(_) { @free - (5 << 20) })
      expect { another.check(1000) }.to raise_error(Loomshuttle::Invalid, /5 MB are missing, as 1501 MB are kept free for the take under way/)
    end

    it "may fill a disk that has no takes, while one is under way on another" do
      rig.run(0.2)
      rig.recorder.capture_start
      stick = described_class.new("/proc", rig.recorder.takes, free: ->(_) { 10 }) # another file system on every machine
      expect { stick.check(11) }.to raise_error(Loomshuttle::Invalid, "The disk has no room for it: 1 MB are missing. Make room, or try again afterwards.")
      expect { stick.check(10) }.not_to raise_error
    end

    it "keeps half a GiB where nothing is captured" do
      @free = (512 << 20) + 10
      expect { room.check(10) }.not_to raise_error
      expect { described_class.new(root, rig.recorder.takes, free: ->(_) { @free }).check(11) }.to raise_error(Loomshuttle::Invalid, /1 MB are missing, as 512 MB are kept free\. /)
    end
  end
end
