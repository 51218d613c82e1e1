# frozen_string_literal: true

RSpec.describe Loomshuttle::Shape do
  def fits(shape, value) = shape.check(value, "it")
  def refused(shape, value, why) = expect { shape.check(value, "it") }.to raise_error(Loomshuttle::Invalid, why)

  it "takes nothing for something else" do
    { described_class.whole(0..9) => ["1", 1.0, 10, -1, nil, true], described_class.number(0..1) => ["0.5", Float::NAN, Float::INFINITY, 1.1, nil],
      described_class.boolean => ["true", 1, nil], described_class.text(most: 3) => [1, "long", nil, "a\0", "\xFF"], described_class.one_of(24, 32) => ["24", 24.5],
      described_class.list(described_class.whole, most: 2) => [{}, [1, 2, 3], ["1"]], described_class.record({ "a" => described_class.boolean }) => [[], {}, { "a" => 1 }],
      described_class.or_none(described_class.whole(1..2)) => [false, 0] }.each { |shape, values| values.each { |value| refused(shape, value, /\Ait/) } }
  end

  it "gives back what may be kept, and says where something is wrong" do
    shape = described_class.record({ "list" => described_class.list(described_class.text(most: 5), most: 3) }, { "more" => described_class.or_none(described_class.whole) })
    expect(fits(shape, { "list" => ["e\u0301"], "more" => nil, "other" => 1 })).to eq("list" => ["é"], "more" => nil)
    refused(shape, { "list" => ["a", 2] }, %r{\Ait/list/1 must be text})
    expect(fits(described_class.any_of(described_class.whole, described_class.text(most: 9)), "x")).to eq("x")
  end
end

RSpec.describe Loomshuttle::Text do
  it "keeps one normal form of what can be shown, and refuses the rest" do
    expect(described_class.keep("Prüf\u0301\n")).to eq("Prüf\u0301\n".unicode_normalize(:nfc))
    ["a\0b", "\xC0\xAF", "\u0007", "\u009B", "x" * 201, "\xED\xA0\x80".dup.force_encoding("UTF-8")].each { |bad| expect { described_class.keep(bad) }.to raise_error(Loomshuttle::Invalid) }
    expect { described_class.keep("a\nb", lines: false) }.to raise_error(Loomshuttle::Invalid, /cannot be shown/)
  end

  it "makes anything readable, for words about it" do
    expect(described_class.readable("a\xFF\0b\n")).to eq("a??b ")
  end
end

RSpec.describe "A setting's path" do
  include CoreHelp

  # Each setting has one path; another spelling of it would be kept beside it.
  ["channel/01/name", "channel/1/name/x", "channel/1/name/", "channel//name", "channel/1x/name", "setup/bits/x", "rig", "channel/1", "", "/", "box/A/port",
   "channel/1/number"].each do |path|
    it("is no #{path.inspect}") { expect { blank.put(path, "x") }.to raise_error(Loomshuttle::Invalid, /There is no setting/) }
  end

  it "takes no false for none" do
    show = chained
    ["rig/interface", "channel/1/spot", "box/a/profile", "box/a/port", "box/a/spot", "track/1/colour", "output/1/source", "send/1/tap",
     "send/1/source", "channel/1/stage", "channel/1/take",

     "outlet/#{show.outlets.keys.first}/first", "output/1/expected"].each do |path|
      expect { show.put(path, false) }.to raise_error(Loomshuttle::Invalid), path
    end
  end
end
