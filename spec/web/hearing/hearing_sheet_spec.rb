# frozen_string_literal: true

RSpec.describe Loomshuttle::Web::HearingSheet do
  it "writes a table that starts no formula" do
    row = described_class::HEAD.to_h { |head| [head.to_sym, "=1"] }
    expect(described_class.csv([row]).lines.last).to start_with("'=1,'=1")
  end
end
