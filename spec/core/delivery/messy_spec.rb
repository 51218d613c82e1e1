# frozen_string_literal: true

# Deliveries as people make them, from several habits (invented): spec/deliveries. Each has the habit, then its files, as "name | lanes | what the
# file calls them, or - | seconds", then what must come of them: "a > b" are parts, "a & b" left and right, "a#2" is channel 2 of a file, "= 4" the track
# that it goes to, and "!" a warning.
RSpec.describe "Messy deliveries" do
  let(:show) do
    names = ["Tuba", "Cornet 1", "Cornet 2", "Fiddle", "Accordion", "Bass DI", "Bass mic", "Voice Ada", "Voice Bram", "Bass drum", "Side drum", "Hurdy-gurdy", "Cymbals",
             "Ambience L", "Ambience R", "Overhead 1", "Overhead 2"]
    base = straight(names.size, from: blank("hazel-56"))
    named = set(base, names.each.with_index(1).flat_map { |name, n| [["channel/#{n}/name", name], ["track/#{n}/name", ""]] }.to_h)
    set(named, "track/13/inputs" => [], "track/13/outputs" => []).then { |now| set(now, "track/13/stereo" => true, "track/13/inputs" => [13, 30], "track/13/outputs" => [13, 30]) }
  end

  def sound(line)
    file, lanes, called, seconds = line.split(" | ")
    Loomshuttle::Delivery::Sound.new(path: "/d/#{file}", name: Loomshuttle::Delivery::Name.parse(file), rate: 48_000, lanes: (lanes || 1).to_i, codec: "pcm_s24le",
                                     frames: (seconds || 10).to_i * 48_000, time_reference: nil, called: called.to_s.delete_prefix("-").split("; "))
  end

  def told(item)
    pieces = item.recording.pieces.map { |piece| piece.map { |source| "#{source.sound.path.delete_prefix('/d/')}#{"##{source.lane + 1}" if source.lane}" }.join(" & ") }
    "#{pieces.join(' > ')} = #{item.target || '-'}"
  end

  Dir[File.join(__dir__, "../../deliveries/*.txt")].each do |file|
    it "becomes what its maker meant: #{File.basename(file, '.txt')}" do
      _, files, wanted = File.read(file).split("\n\n").map { |part| part.lines(chomp: true) }
      items = Loomshuttle::Delivery::Plan.of(files.map { |line| sound(line) }, show)
      expect(items.map { |item| told(item) } + items.flat_map(&:warnings).map { |words| "! #{words}" }).to match_array(wanted)
    end
  end

  it "are twenty at least" do
    expect(Dir[File.join(__dir__, "../../deliveries/*.txt")].size).to be >= 20
  end
end
