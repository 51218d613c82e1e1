# frozen_string_literal: true

# A second player beside the first: the interface changes over once the first one's pilot is silent, and the music goes on at the same sample.
RSpec.describe Loomshuttle::StandIns::Interface::Changeover, :folder do
  # Noise of ten seconds, so that every sample tells where it is.
  let(:sound) { SongFolder.noise(480_000, 3) }
  let(:two) { TwoPlayers.new(@folder) }

  def ready(two)
    sections = [{ "key" => 1, "name" => "A", "bar" => 1 }, { "key" => 2, "name" => "B", "bar" => 2 }, { "key" => 3, "name" => "C", "bar" => 3 }]
    id = SongFolder.write(@folder, { "Strings" => sound }, click: { "on" => false })
    path = File.join(@folder, id, "song.json")
    File.write(path, JSON.generate(JSON.parse(File.read(path)).merge("sections" => sections)))
    roles = [["Strings", "parts", 1], ["Pilot", "pilot", 12]].map { |name, kind, output| { "name" => name, "kind" => kind, "outputs" => [output] } }
    two.configure(items: [{ "key" => 1, "song" => id }], roles: roles, pilot: { "hz" => 19_000, "level_db" => -30, "mute" => false })
    two.run(4800)
    two.load(1)
    two.command("play")
    two.run(9600)
  end

  # @param moment [Integer, nil] block in which the first one dies; nil: nobody does
  # @return [Array<Integer>] what the output gave
  def night(moment, jump)
    pair = ready(TwoPlayers.new(@folder))
    pair.command("jump", section: 3, at_next: "beat") if jump
    pair.run(240 * (moment || 60))
    pair.kill(0) if moment
    pair.run(7200)
    expect(pair.interface.changeover.heard).to eq(moment ? 1 : 0)
    pair.output
  end

  # Beside the same night in which nobody dies: the same samples at the same time, but for one short silence.
  it "changes over within 20 ms at fifty seeded moments, among them in jumps, and goes on at the same sample" do
    random = Random.new(15)
    whole = [true, false].to_h { |jump| [jump, night(nil, jump)] }
    gaps = Array.new(50) do |nth|
      heard, meant = night(random.rand(1..60), nth.odd?), whole.fetch(nth.odd?)
      apart = heard.each_index.reject { |at| heard[at] == meant[at] }
      expect(heard.values_at(*apart).uniq).to eq([0]).or(eq([]))
      apart.empty? ? 0 : apart.last - apart.first + 1
    end
    expect(gaps.max).to be_between(1, 960)
  end

  it "holds until it is told to go back, and stays where nobody else is well" do
    ready(two)
    two.kill(0)
    two.run(4800)
    expect(two.interface.changeover.heard).to eq(1)
    two.interface.changeover.back
    two.run(240)
    expect(two.interface.changeover.heard).to eq(0)
    two.run(960)
    expect(two.interface.changeover.heard).to eq(1)
    two.kill(1)
    two.run(9600)
    expect(two.interface.changeover.heard).to eq(1)
  end

  it "stays with the first one while both are well" do
    ready(two)
    two.run(48_000)
    expect(two.interface.changeover.heard).to eq(0)
    expect(two.players.map { |player| player.status.values_at("position", "time") }.uniq.size).to eq(1)
  end
end
