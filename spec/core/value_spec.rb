# frozen_string_literal: true

RSpec.describe Loomshuttle::Value do
  let(:value) { described_class.define(:name, memo: true).new(name: "Fiddle") }
  let(:asked) { [] }

  def length(*under) = value.memo(:length, *under) { (asked << under) && value.name.size }

  it "derives something from a value once" do
    expect(Array.new(3) { length }).to eq([6, 6, 6])
    expect(asked).to eq([[]])
  end

  it "derives it again for another object, even an equal one, and keeps only the latest result" do
    one, same = +"rig", +"rig"
    [one, one, same, one].each { |rig| length(rig) }
    expect(asked.map { |under| under.map(&:object_id) }).to eq([one, same, one].map { |rig| [rig.object_id] })
  end

  it "passes no result on to a value made from it" do
    length
    expect(value.with(name: "Tuba").memo(:length) { :again }).to eq(:again)
  end
end
