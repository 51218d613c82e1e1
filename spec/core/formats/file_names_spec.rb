# frozen_string_literal: true

RSpec.describe Loomshuttle::Formats::FileNames do
  {
    "Fiddle" => "Fiddle", "Prüf/stück: 1?" => "Prüf_stück_ 1_", "../../etc/passwd" => "_etc_passwd", "" => "unnamed", "   " => "unnamed", "CON" => "CON_", "lpt1" => "lpt1_",
    "a" * 100 => "a" * 60, "日本語" => "日本語", "tab\tname" => "tab_name", ".hidden" => "_hidden", "Ольга и Ελένη" => "Ольга и Ελένη", "हिन्दी" => "हिन्दी",
    "Fl\u0075\u0308gel" => "Fl\u00FCgel", "a\u202Eb" => "a_b", "nul\0byte" => "nul_byte", "trailing. " => "trailing_", "🎺" => "unnamed", "Tom 12\" rack" => "Tom 12_ rack"
  }.each do |name, safe|
    it("makes #{name.inspect[0, 30]} safe") { expect(described_class.safe(name)).to eq(safe) }
  end

  # A name has 143 bytes at most on encrypted folders (eCryptfs), 255 elsewhere.
  it "ends between characters, and leaves room for numbers" do
    expect(described_class.safe("日" * 100)).to eq("日" * 20)
    expect(described_class.safe("e\u0301e\u0323" * 50, most: 9)).to eq("éẹé")
    longest = described_class.track("日" * 100, 9999, 99, "Ж" * 100)
    expect(longest.bytesize).to be <= 143
    expect(longest).to be_valid_encoding
  end

  # By unzip and a file system, rather than by rules of ours: written, listed and read again.
  it "names files that can be made and found again" do
    Dir.mktmpdir do |folder|
      names = ["日本語", "हिन्दी", "العربية", "Ñandú", "a/b", "..", "CON", "-rf"].map { |name| "#{described_class.safe(name)}.wav" }
      names.each { |name| File.write(File.join(folder, name), "x") }
      expect(Dir.children(folder)).to match_array(names)
    end
  end
end
