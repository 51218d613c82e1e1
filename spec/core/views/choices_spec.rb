# frozen_string_literal: true

# What a cell may be set to: each choice can be applied, one of them is how it is, and what the rig lacks says why.
RSpec.describe Loomshuttle::Views::Choices do
  %w[rowan-10 rowan-16 sedge-24 alder-40 hazel-56].each do |desk|
    it "offers on a #{desk} only what can be set" do
      show = desk == "alder-40" ? straight(16, from: chained) : straight(2, from: blank(desk))
      described_class::COLUMNS.each_key do |column|
        [1, cells(show, column)].uniq.each do |number|
          choices = described_class.for(show, column, number)
          expect(choices.count(&:current)).to be <= 1
          choices.reject(&:missing).each do |choice|
            expect { set(show, Loomshuttle::Steps::Completed.settings(show, choice.settings)) }.not_to raise_error, "#{column} #{number}: #{choice.label}"
          end
        end
      end
    end
  end

  it "shows sockets that a block could name but the rig lacks, last and with the reason" do
    choices = described_class.for(chained, "hears_on_stage", 1)
    missing = choices.select(&:missing)
    expect(missing.map(&:label)).to include("In 13", "Link A, lane 33")
    expect(missing.find { |one| one.label == "In 13" }.missing).to eq("the Alder 40 has only 12 In sockets")
    expect(choices.index(missing.first)).to be > choices.index { |one| one.label == "Box B in 16 (link A, lane 32)" }
  end

  it "marks what is set" do
    current = described_class.for(straight(4), "send", 3).find(&:current)
    expect([current.label, current.settings]).to eq(["Channel 3 Source 3", { "send/3/source" => "desk/ch/3" }])
  end

  it "offers stereo tracks lanes in pairs" do
    show = set(straight(2), "track/5/stereo" => true)
    lanes = described_class.for(show, "track_input", 5).map { |choice| choice.settings["track/5/inputs"] }
    expect(lanes).to include([], [3, 4], [5, 6])
    expect(lanes).not_to include([4])
  end

  it "refuses a column or a cell that does not exist" do
    expect { described_class.for(straight(2), "soup", 1) }.to raise_error(Loomshuttle::Invalid, /soup/)
    expect { described_class.for(straight(2), "send", 99) }.to raise_error(Loomshuttle::Invalid, /99/)
  end

  it "are called as the sheet prints them; a number alone is the desk's own socket" do
    marks = described_class.for(chained, "hears_on_stage", 1).to_h { |choice| [choice.label, choice.marks] }
    expect(marks.values_at("Box A in 9 (link A, lane 9)", "Box B in 3 (link A, lane 19)", "In 5")).to eq([["A 9", "A·9"], ["B 3", "A·19"], ["In 5", "5"]])
    expect(described_class.for(straight, "track_input", 1).map(&:marks).first(3)).to eq([[], ["1"], ["2"]])
    expect(described_class.for(straight, "socket_feeds", 1).find { |choice| choice.label.start_with?("Channel 7") }.marks).to eq(["7"])
  end
end
