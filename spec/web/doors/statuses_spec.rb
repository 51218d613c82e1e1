# frozen_string_literal: true

RSpec.describe Loomshuttle::Problem do
  let(:problems) { [Loomshuttle::Invalid, Loomshuttle::NotFound, Loomshuttle::Stale, Loomshuttle::Busy, Loomshuttle::Away, Loomshuttle::Full].map { |one| one.new("No.", where: "here") } }

  it "has a status, a code and an exit code for each kind" do
    kinds = described_class::KINDS
    expect(Loomshuttle::Web::Statuses::OF.keys).to match_array(kinds)
    expect(Loomshuttle::Runtime::Rpc::CODES.keys).to eq(kinds)
    expect(Loomshuttle::CommandLine::ExitCodes::OF.keys).to match_array(kinds.map(&:to_s))
    expect(Loomshuttle::CommandLine::ExitCodes::OF.values).to all(satisfy { |code| code.between?(64, 78) }) # 1 tells that a command found something
  end

  it "is the same problem again behind a line to another process" do
    problems.each do |problem|
      line = Loomshuttle::Runtime::Rpc.new("ask" => -> { raise problem }).answer({ jsonrpc: "2.0", id: 1, method: "ask" }.to_json)
      error = JSON.parse(line)["error"]
      again = described_class.of(error["data"]["kind"], error["message"], where: error["data"]["where"])
      expect([again.class, again.message, again.where]).to eq([problem.class, "No.", "here"])
    end
  end

  it "tells a full disk and a database that is away from defects" do
    statuses = Loomshuttle::Web::Statuses
    expect(statuses.of_error(Errno::ENOSPC.new)).to match([507, /The disk is full/, "disk"])
    expect(statuses.of_error(Sequel::PoolTimeout.new)).to match([503, /database does not answer/, "database"])
    expect(statuses.of_error(Loomshuttle::Store::Database::Unknown.new)).to match([503, /may be saved or not/, "unknown"])
    expect(statuses.of_error(NoMethodError.new)).to be_nil
  end
end
