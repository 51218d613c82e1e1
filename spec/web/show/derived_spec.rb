# frozen_string_literal: true

RSpec.describe Loomshuttle::Web::Derived do
  let(:free) { { bytes: 100 << 30 } }
  let(:show) { set(straight(16), "send/5/tap" => "post-eq") }
  let(:derived) { described_class.new(Loomshuttle::Store::Shows::Loaded.new(id: 1, version: 3, show: show), free: -> { free[:bytes] }) }

  it "computes graph, findings and sheet once, however many ask" do
    first = Array.new(4) { Thread.new { [derived.context, derived.findings, derived.sheet] } }.map(&:value)
    expect(first.transpose.map { |same| same.map(&:object_id).uniq.size }).to eq([1, 1, 1])
  end

  it "checks again when the disk has become too short for the show, or long enough" do
    expect(derived.findings.map(&:check)).to eq(["not-at-preamp"])
    free[:bytes] = 2 << 30
    expect(derived.findings.map(&:check)).to include("disk-time")
    free[:bytes] = 100 << 30
    expect(derived.findings.map(&:check)).to eq(["not-at-preamp"])
  end

  it "leaves out what somebody accepted" do
    accepted = described_class.new(derived.loaded.with(show: set(show, "setup/accepted" => { "not-at-preamp/5" => "wanted so" })), free: -> {})
    expect([accepted.findings.size, accepted.open_findings]).to eq([1, []])
  end
end
