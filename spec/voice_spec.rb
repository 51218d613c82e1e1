# frozen_string_literal: true

# Turns of phrase that read as translated, in whatever a person can read: texts, comments, documents. A line that needs one says why at its end:
# "voice: quoted", for example.
RSpec.describe "The language of all texts" do
  def self.turns
    {
      "anew" => /\banew\b/, "meanwhile" => /\bmeanwhile\b/i, "by itself" => /\bby (itself|themselves)\b/,
      "X is no Y" => /(?<!here )\b(is|are) no (?!longer|more|shorter|good|one\b|room\b|lane\b|doubt\b)\w+/i,
      "which it has not" => /\b(has|have) not(?=[.,;:)"']|$| so many| at this)/,
      "n apart" => /\bchanges apart\b/, "hangs on no link" => /hangs on no link/, "it is tried again all the time" => /tried again all the time/
    }
  end

  # @return [Array<String>] paths of all texts but those that quote the past
  def texts
    parts = "{bin,bench,command_line,core,docs,player,porter,processes,recorder,runtime,spec,stand_ins,store,supervisor,ui/src,web}"
    all = Dir.glob(["*.md", "#{parts}/**/*"], base: Loomshuttle::ROOT).grep(%r{\.(rb|ts|tsx|md|sh)\z|\Abin/})
    all.grep_v(%r{\A(docs/decisions/|docs/benchmarks|CHANGELOG|spec/voice_spec)|schema\.d\.ts\z}).select { |file| File.file?(File.join(Loomshuttle::ROOT, file)) }
  end

  it "is looked at in every file" do
    expect(texts.size).to be > 700
  end

  turns.each do |name, pattern|
    it "does without \"#{name}\"" do
      found = texts.flat_map do |file|
        File.foreach(file, encoding: "UTF-8").with_index(1).filter_map do |line, at|
          "#{file.delete_prefix("#{Loomshuttle::ROOT}/")}:#{at}: #{line.strip[0, 150]}" if line.match?(pattern) && !line.include?("voice:")
        end
      end
      expect(found).to eq([])
    end
  end
end
