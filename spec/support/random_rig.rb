# frozen_string_literal: true

# A show on a random rig with a random patch, all from a seed, and the rig file that a stand-in desk of the same devices
# starts from.
class RandomRig
  DESKS = %w[rowan-10 rowan-16 alder-40 hazel-56].freeze

  attr_reader :show, :random

  def initialize(seed)
    @random = Random.new(seed)
    @show = Loomshuttle::Settings::Show.blank(CoreHelp::CATALOG, { name: "Random #{seed}" }, desk: DESKS.sample(random: @random))
    add_boxes
    patch(%w[hears_on_stage hears_on_take send tap], 60)
    mix
    put_out
    positions
  end

  def rig
    boxes = show.profile.ports.flat_map { |port| show.layout.chain(port) }.map do |hung|
      { "profile" => hung.box.id, "port" => hung.port, "input_offset" => hung.up.min - 1, "output_offset" => hung.down.min - 1 }
    end
    { "desk" => show.rig.desk, "boxes" => boxes }
  end

  private

  def apply(settings)
    whole = Loomshuttle::Steps::Completed.settings(@show, settings, moving: %w[slot block].sample(random: random))
    @show = Loomshuttle::Settings::Edit.set("random", whole).apply(@show).first
  rescue Loomshuttle::Invalid
    nil # more than the desk can do; the next one
  end

  # Chains with gaps, but without overlaps: two sockets on one lane is a fault, and no cable can say which one wins.
  def add_boxes
    @show.profile.ports.each do |port|
      random.rand(0..3).times do
        @show = Loomshuttle::Steps::Chain.add(@show, profile: %w[bramble-16 bramble-32].sample(random: random), port: port).apply(@show).first
      rescue Loomshuttle::Invalid
        break # the link is full
      end
      @show.layout.chain(port).last(1).each { |hung| apply("box/#{hung.letter}/input_offset" => [47, hung.up.min - 1 + random.rand(0..9)].min) }
    end
  end

  def patch(columns, times)
    times.times do
      column = columns.sample(random: random)
      numbers = %w[send tap].include?(column) ? @show.sends : @show.channels
      apply(Loomshuttle::Views::Choices.for(@show, column, numbers.keys.sample(random: random)).sample(random: random).settings)
    end
    @show.channels.each_key { |n| apply("channel/#{n}/gain" => random.rand(0..20)) }
  end

  # Subgroups, pairs, taps, polarity, and who is on main; some of what a desk refuses is asked for too.
  def mix
    taps = @show.profile.mixing.send_taps
    @show.buses.each_key do |bus|
      apply("bus/#{bus}/mode" => "subgroup") if random.rand < 0.25
      apply("bus/#{bus}/tap" => taps.sample(random: random))
      apply("bus/#{bus}/paired" => true) if random.rand < 0.3
      apply("bus/#{bus}/main" => true) if random.rand < 0.3
    end
    @show.channels.each_key { |n| mix_channel(n, taps) }
  end

  def mix_channel(number, taps)
    apply("channel/#{number}/main" => false) if random.rand < 0.3
    apply("channel/#{number}/polarity" => true) if random.rand < 0.3
    apply("channel/#{number}/groups" => @show.buses.keys.sample(random.rand(0..3), random: random))
    apply("channel/#{number}/send_taps" => @show.buses.keys.sample(random.rand(0..3), random: random).to_h { |bus| [bus.to_s, taps.sample(random: random)] })
  end

  def put_out
    sources, taps = @show.profile.output_points, @show.profile.mixing.output_taps
    @show.outputs.each_key { |n| put_out_one(n, sources, taps) }
    @show.personal_lanes.each_key { |n| apply("personal/#{n}/source" => sources.sample(random: random).name, "personal/#{n}/tap" => taps.sample(random: random)) }
    @show.outlets.keys.sample(6, random: random).each do |block|
      size = @show.profile.outlet_blocks.fetch(block).size
      apply("outlet/#{block}/first" => [nil, *(1..@show.profile.mix_outputs).step(size)].sample(random: random))
    end
    apply("setup/card_mode" => @show.profile.card_modes.keys.sample(random: random)) if random.rand < 0.2
  end

  def put_out_one(number, sources, taps)
    apply("output/#{number}/source" => [nil, *@show.profile.mix_points, sources.sample(random: random)].sample(random: random)&.name)
    apply("output/#{number}/tap" => taps.sample(random: random))
    apply("output/#{number}/polarity" => true) if random.rand < 0.3
    apply("output/#{number}/delay" => random.rand(1..900)) if random.rand < 0.3
  end

  def positions = @show.channels.keys.sample(random.rand(0..6), random: random).each { |n| apply("channel/#{n}/position" => "take") }
end
