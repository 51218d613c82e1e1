# frozen_string_literal: true

# A show on a random rig with a random patch, all from a seed, and the rig file that a stand-in desk of the same devices
# starts from.
class RandomRig
  DESKS = %w[rowan-10 rowan-16 sedge-24 alder-40 hazel-56].freeze

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
    trimmed = @show.channels.keys.select { |number| @show.profile.strip(number).trim && random.rand < 0.3 }
    apply(trimmed.to_h { |number| ["channel/#{number}/trim", random.rand(-12..12) / 2.0] })
  end

  # Subgroups, pairs, taps, polarity, and who is on main, as far as the desk can.
  def mix
    apply(@show.buses.keys.reduce({}) { |all, bus| all.merge(mix_bus(bus, @show.profile.mixing)) })
    apply(@show.channels.keys.reduce({}) { |all, number| all.merge(mix_channel(number, @show.profile.mixing)) })
  end

  def mix_bus(bus, mixing)
    found = { "bus/#{bus}/tap" => mixing.send_taps.sample(random: random) }
    found["bus/#{bus}/mode"] = "subgroup" if mixing.subgroups && random.rand < 0.25
    found["bus/#{bus}/paired"] = true if mixing.pairs && bus.odd? && bus < @show.profile.buses && random.rand < 0.5
    found["bus/#{bus}/main"] = true if mixing.bus_to_main && random.rand < 0.3
    found
  end

  def mix_channel(number, mixing)
    groups = mixing.subgroups ? @show.buses.keys.sample(random.rand(0..3), random: random) : []
    taps = @show.buses.keys.sample(random.rand(0..3), random: random).to_h { |bus| [bus.to_s, mixing.send_taps.sample(random: random)] }
    { "channel/#{number}/main" => random.rand > 0.3, "channel/#{number}/polarity" => random.rand < 0.3, "channel/#{number}/groups" => groups,
      "channel/#{number}/send_taps" => taps }
  end

  def put_out
    sources, mixing = @show.profile.output_points, @show.profile.mixing
    apply(@show.outputs.keys.reduce({}) { |all, number| all.merge(put_out_one(number, sources, mixing)) })
    apply(@show.personal_lanes.keys.reduce({}) { |all, n| all.merge("personal/#{n}/source" => sources.sample(random: random).name, "personal/#{n}/tap" => tap(mixing)) })
    @show.outlets.keys.sample(6, random: random).each do |block|
      size = @show.profile.outlet_blocks.fetch(block).size
      apply("outlet/#{block}/first" => [nil, *(1..@show.profile.mix_outputs).step(size)].sample(random: random))
    end
    apply("setup/card_mode" => @show.profile.card_modes.keys.sample(random: random)) if random.rand < 0.2
  end

  def put_out_one(number, sources, mixing)
    source = [nil, *@show.profile.mix_points & sources, sources.sample(random: random)].sample(random: random)
    found = { "output/#{number}/source" => source&.name, "output/#{number}/tap" => tap(mixing) }
    found["output/#{number}/polarity"] = true if mixing.polarity && random.rand < 0.3
    found["output/#{number}/delay"] = random.rand(1..900) if mixing.delay_ms.positive? && random.rand < 0.3
    found
  end

  def tap(mixing) = mixing.output_taps.sample(random: random)

  def positions = @show.channels.keys.sample(random.rand(0..6), random: random).each { |n| apply("channel/#{n}/position" => "take") }
end
