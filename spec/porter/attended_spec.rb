# frozen_string_literal: true

RSpec.describe Loomshuttle::Porter::Attended, :folder do
  let(:job) { Object.new.tap { |one| one.define_singleton_method(:check) { nil } } }

  def attended(seconds: 60, stopped: -> { false }) = described_class.new(job, stopped: stopped, seconds: seconds, where: "items")

  # @return [Integer] of the program that has written it
  def pid = Tools.wait_until(30, "the program to run") { File.exist?(path) && !File.read(path).strip.empty? && File.read(path).to_i }
  def path = File.join(@folder, "pid")
  def gone?(pid) = Tools.wait_until(30, "the program to be gone") { !File.exist?("/proc/#{pid}") }
  def endless = ["sh", "-c", "echo $$ > #{path}; exec sleep 600"]

  it "gives what a program said, the last of it, and whether it ended well, however much it says" do
    expect(attended.run("cat", input: "Tuba")).to eq(["Tuba", true])
    said, well = attended.run("sh", "-c", "yes words | head -c 3000000; echo the end; exit 3")
    expect([said.bytesize, said.lines.last, well]).to eq([8192, "the end\n", false])
    expect(attended.run("printf", "\\377x").first).to eq("\uFFFDx")
    expect { attended.run("no-such-program") }.to raise_error(SystemCallError)
  end

  it "ends a program whose job is not wanted any more, that takes too long, or when the porter is to end" do
    allow(job).to receive(:check).and_raise(Loomshuttle::Porter::Job::Cancelled)
    { attended => Loomshuttle::Porter::Job::Cancelled }.each { |one, error| expect { one.run(*endless) }.to raise_error(error) }
    allow(job).to receive(:check)
    expect { attended(seconds: -1).run(*endless) }.to raise_error(Loomshuttle::Invalid, /took longer than/)
    expect { attended(stopped: -> { File.exist?(path) }).run(*endless) }.to raise_error(Loomshuttle::Porter::Job::Stopped)
    expect(gone?(pid)).to be(true)
  end

  it "tells each time that it looks" do
    looked = 0
    attended(stopped: -> { looked > 2 }).run("sleep", "600") { looked += 1 }
  rescue Loomshuttle::Porter::Job::Stopped
    expect(looked).to eq(3)
  end
end
