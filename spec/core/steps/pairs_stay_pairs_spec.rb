# frozen_string_literal: true

# A stereo pair is one thing, whatever step is taken with one of its sides.
RSpec.describe Loomshuttle::Steps do
  let(:alike) { %i[colour main polarity groups send_taps position] }

  def seeds = ENV.fetch("SEEDS", "60").to_i.times

  # A random show in which some neighbours are pairs, alike as somebody would have made them.
  def show(seed)
    rig = RandomRig.new(seed)
    lefts = rig.show.channels.keys.select { |number| number.odd? && [number, number + 1].all? { |one| rig.show.profile.strip(one)&.width == 1 } }
    pairs = lefts.sample(rig.random.rand(1..6), random: rig.random)
    show = pairs.reduce(rig.show) { |now, left| done(now) { Loomshuttle::Steps::Pairs.join(now, left) } }
    [pairs.reduce(show) { |now, left| done(now) { one_thing(now, left) } }, rig.random]
  end

  def one_thing(show, left)
    fields = %w[colour main polarity groups send_taps].to_h { |field| ["channel/#{left + 1}/#{field}", show.get("channel/#{left}/#{field}")] }
    positions = [left, left + 1].to_h { |number| ["channel/#{number}/position", "stage"] }
    Loomshuttle::Settings::Edit.set("alike", Loomshuttle::Steps::Completed.settings(show, fields.merge(positions)))
  end

  def done(show)
    yield.apply(show).first
  rescue Loomshuttle::Invalid
    show # the desk cannot do it
  end

  def steps(show, number, random)
    mixing = show.profile.mixing
    one = { "dye" => { "channel/#{number}/colour" => "woad" }, "polarity" => { "channel/#{number}/polarity" => true },
            "main" => { "channel/#{number}/main" => random.rand < 0.5 } }
    one["taps"] = { "channel/#{number}/send_taps" => { "1" => mixing.send_taps.last } }
    one["groups"] = { "channel/#{number}/groups" => show.buses.keys.sample(2, random: random) } if mixing.subgroups
    settings = one.transform_values { |given| ["settings", { "settings" => given }] }
    settings.merge("range on main" => ["mix_range", { "channels" => [number], "main" => true }],
                   "range in a subgroup" => ["mix_range", { "channels" => [number], "subgroup" => 0 }],
                   "flip" => ["flip", { "to" => "take", "channels" => [number] }], "back" => ["flip", { "to" => "stage", "channels" => [number] }], "patch" => ["auto_patch", {}],
                   "moved" => ["move_lanes", { "way" => "send", "from" => 1, "to" => 3 }])
  end

  it "leaves the sides of every pair alike, by any step with one of them" do
    taken = Hash.new(0)
    seeds.each do |seed|
      show, random = show(seed)
      lefts = show.channels.values.select(&:paired)
      next if lefts.empty?

      left = lefts.sample(random: random)
      steps(show, left.number + random.rand(2), random).each do |name, (kind, options)|
        after = done(show) { Loomshuttle::Steps::Propose.for(show, kind, options).edit }
        taken[name] += 1 unless after.equal?(show)
        after.channels.values.select(&:paired).each do |one|
          other = after.channels[one.number + 1]
          before = [one, other].map { |channel| show.channels[channel.number] }
          # A side without a take source cannot go there.
          fields = [one, other].all?(&:take) ? alike : alike - [:position]
          apart = fields.select { |field| before.map { |channel| channel[field] }.uniq.size == 1 && one[field] != other[field] }
          expect([seed, name, one.number, apart]).to eq([seed, name, one.number, []])
        end
        expect(after.channels[left.number].paired).to be(true)
      end
    end
    expect(taken.values).to all(be > 5), taken.to_s
  end
end
