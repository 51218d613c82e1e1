# frozen_string_literal: true

# Manifests and job files, good ones and damaged ones: either a document that everybody can count on, or a refusal.
RSpec.describe "Documents from a disk" do
  let(:job) do
    { "id" => "0b9e7a52-4a53-4c0e-9f0e-0d6f0f1d2c3b", "kind" => "export", "state" => "waiting", "made_at" => "2026-06-13T20:30:00.000Z", "form" => "zip", "name" => "0001 Set",
      "take" => "/takes/0001 Set", "number" => 1, "tracks" => [1], "from" => nil, "to" => 100, "done" => 0, "total" => 0, "who" => nil }
  end

  def outcomes(document, count, seed)
    random = Random.new(seed)
    Array.new(count) do
      damaged = Damage.value(document, random)
      yield damaged
    rescue Loomshuttle::Invalid => e
      expect(e.message).to match(/\S/)
      :refused
    end
  end

  it "are takes that hold what everybody counts on, or none" do
    expect(Loomshuttle::Formats::TakeManifest.check(Damage::TAKE)).to eq(Damage::TAKE)
    kept = outcomes(Damage::TAKE, 2000, 1) { |one| Loomshuttle::Formats::TakeManifest.check(one) }
    expect(kept.count(:refused)).to be > 1000
    (kept - [:refused]).each do |take|
      expect(take["frames"]).to be_between(0, 1 << 36)
      expect(take["tracks"].map { |track| File.basename(track["file"]) }).to eq(take["tracks"].map { |track| track["file"] })
      expect { JSON.generate(take) }.not_to raise_error
    end
  end

  it "are jobs that can be done, or none" do
    expect(Loomshuttle::Formats::JobFile.check(job, id: job["id"])).to eq(job)
    kept = outcomes(job, 2000, 2) { |one| Loomshuttle::Formats::JobFile.check(one, id: job["id"]) }
    expect(kept.count(:refused)).to be > 1000
    expect((kept - [:refused]).map { |one| one["made_at"] }).to all(be_a(String))
    expect { Loomshuttle::Formats::JobFile.check(job, id: "other") }.to raise_error(Loomshuttle::Invalid, /another job/)
  end
end

RSpec.describe Loomshuttle::Formats::TakeManifest do
  # Takes on disks, and screens, depend on these words.
  it "knows the kinds of breaks that the contract knows, also that of older takes" do
    api = JSON.parse(File.read(File.join(Loomshuttle::ROOT, "web", "openapi.json")))
    kinds = api["components"]["schemas"]["Break"]["properties"]["kind"]["enum"]
    expect(kinds).to match_array(%w[paused anew]) # voice: words of the file format
    kinds.each { |kind| expect(described_class::BREAK.check({ "at" => 1, "seconds" => 0.5, "kind" => kind }, "break")).to include("kind" => kind) }
    expect { described_class::BREAK.check({ "at" => 1, "seconds" => 0.5, "kind" => "again" }, "break") }.to raise_error(Loomshuttle::Invalid, /one of/)
  end
end
