# frozen_string_literal: true

# Mixes for tests.
module MixHelp
  # A desk on which nobody has mixed: channels and sends off, nothing muted or panned, masters at 0 dB.
  # @return [Hash{String=>Object}] as Signal::MixedLevels takes them
  def self.values(show, changed = {})
    desk = show.profile
    channels = show.channels.keys.flat_map do |n|
      [["channel/#{n}/fader", -90], ["channel/#{n}/mute", false], ["channel/#{n}/pan", 0]] + (1..desk.buses).map { |bus| ["channel/#{n}/send/#{bus}", -90] }
    end
    buses = (1..desk.buses).flat_map { |bus| [["bus/#{bus}/fader", 0], ["bus/#{bus}/mute", false], ["bus/#{bus}/pan", 0]] }
    matrices = (1..desk.matrices).flat_map do |m|
      [["matrix/#{m}/fader", 0], ["matrix/#{m}/mute", false]] + desk.into_matrix.map { |base| ["matrix/#{m}/#{base.kind}/#{base.number || base.side}", -90] }
    end
    outputs = (1..desk.mix_outputs).flat_map { |n| [["output/#{n}/trim", 0], ["output/#{n}/mute", false]] }
    [*channels, *buses, *matrices, *outputs, ["main/fader", 0], ["main/mute", false]].to_h.merge(changed)
  end

  # @return [Hash{String=>Object}] some of a mix, at random
  def self.random(show, random, count)
    values(show).keys.sample(count, random: random).to_h do |name|
      value = case name
              when %r{/mute\z} then random.rand < 0.2
              when %r{/pan\z} then random.rand(-1.0..1.0)
              else [-90, random.rand(-20..6)].sample(random: random)
              end
      [name, value]
    end
  end
end
