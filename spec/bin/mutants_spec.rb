# frozen_string_literal: true

# Whether each is killed is what bin/mutants tells, which takes an hour.
RSpec.describe "Mutants" do
  def self.root = Loomshuttle::ROOT

  # @return [Array<Array(String, String)>] file, and lines that must stand in it, of each hunk
  def hunks(patch)
    patch.split(/^--- /).drop(1).flat_map do |part|
      file = part[%r{^\+\+\+ b/(\S+)}, 1]
      part.split(/^@@ .*\n/).drop(1).map { |hunk| [file, hunk.lines.grep(/^[ -]/).map { |line| line[1..] }.join] }
    end
  end

  Dir[File.join(root, "spec", "mutants", "*.patch")].each do |path|
    it "#{File.basename(path, '.patch')} fits the code and names its spec" do
      specs = File.readlines(path).first[/^spec: (.+)$/, 1].split.grep_v(/^-/)
      expect(specs.map { |spec| File.join(self.class.root, spec.split(":").first) }).to all(satisfy { |spec| File.exist?(spec) })
      expect(hunks(File.read(path))).to all(satisfy { |file, lines| File.read(File.join(self.class.root, file)).include?(lines) })
    end
  end
end
