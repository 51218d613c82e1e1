# frozen_string_literal: true

RSpec.describe Loomshuttle::Web::Jobs, :folder do
  let(:jobs) { described_class.new(@folder) }
  let(:root) { File.join(@folder, "jobs") }

  def job(number, state: "done", kind: "export", days: 0, **more)
    id = format("00000000-0000-4000-8000-%012d", number)
    data = { "id" => id, "kind" => kind, "state" => state, "made_at" => (Time.now - (days * 86_400) - number).iso8601(3), "form" => "zip", "name" => "Job #{number}",
             "take" => "/takes/1", "number" => 1, **more.transform_keys(&:to_s) }
    FileUtils.mkdir_p(File.join(root, id))
    File.write(File.join(root, id, "job.json"), JSON.generate(data))
    id
  end

  it "removes old and surplus finished jobs, never one that is running or waiting to be collected" do
    stub_const("#{described_class}::KEPT", 3)
    fresh = (1..3).map { |n| job(n) }
    many = job(4)
    old = job(5, days: 40)
    waiting = job(6, state: "waiting", days: 40)
    FileUtils.mkdir_p(File.join(root, "00000000-0000-4000-8000-000000000007", "work"))
    made = job(7, kind: "bring-in", days: 40, form: "take", rate: 48_000, project: "", started_at: Time.now.iso8601,
                  result: File.join(root, "00000000-0000-4000-8000-000000000007", "work"),
                  items: [{ title: "A", track: 1, lanes: 1, wide: false, offset: 0, files: ["/a.wav"] }])
    elsewhere = File.join(@folder, "stick", "set.zip").tap { |path| FileUtils.mkdir_p(File.dirname(path)) && File.write(path, "x") }
    placed = job(8, days: 40, place: File.dirname(elsewhere), result: elsewhere)
    jobs.clear
    left = jobs.all.map { |one| one["id"] }
    expect(left).to contain_exactly(*fresh, waiting, made)
    expect(left).not_to include(many, old, placed)
    expect(File.exist?(elsewhere)).to be(true)
  end

  it "removes a finished job by its age alone" do
    young, old = job(1, days: 1), job(2, days: 40)
    jobs.clear
    expect(jobs.all.map { |one| one["id"] }).to eq([young])
    expect(Dir.exist?(File.join(root, old))).to be(false)
  end

  it "reads each job's file once, by screens and by the porter" do
    5.times { |n| job(n + 1, state: "waiting") }
    read = 0
    allow(Loomshuttle::Formats::JobFile).to(receive(:read).and_wrap_original { |original, folder| (read += 1) && original.call(folder) })
    3.times { jobs.all }
    expect([jobs.all.size, read]).to eq([5, 5])
    index = Loomshuttle::Porter::Job.index(root)
    3.times { Loomshuttle::Porter::Job.open(root, index) }
    expect(read).to eq(10)
    Loomshuttle::Porter::Job.open(root, index).first.update(state: "done")
    expect([Loomshuttle::Porter::Job.open(root, index).size, jobs.all.map { |one| one["state"] }.tally]).to eq([4, { "waiting" => 4, "done" => 1 }])
  end
end
