# frozen_string_literal: true

require "hana"

RSpec.describe Loomshuttle::Web::ListPatch do
  def between(before, now) = described_class.between("", named(before), named(now))
  def named(names) = names.to_h { |name| [name[/[a-z]+/], name] }

  # Hana is an implementation of RFC 6902 by others.
  def patched(before, operations) = Hana::Patch.new(JSON.parse(JSON.generate(operations))).apply(before.dup)

  {
    "nothing" => %w[a b c d e f], "a record that has changed" => %w[a b1 c d e f], "one at each end and in the middle that are new" => %w[x a b c y d e f z],
    "records that have left" => %w[b c e f], "one that has moved back" => %w[b c d e a f], "one that has moved forward" => %w[f a b c d e],
    "one that has moved and changed, beside one that has left" => %w[b c e1 f a], "two that have changed places" => %w[a e c d b f]
  }.each do |what, now|
    it "tells #{what}" do
      before, now = [%w[a b c d e f], now].map { |list| list + ("k".."v").to_a }
      operations = between(before, now)
      expect(patched(before, operations)).to eq(now)
      expect(operations.size).to be <= (before - now).size + (now - before).size + 4
    end
  end

  it "says that the whole list is shorter to tell where more than half of it has changed" do
    expect([between(%w[a b c d], %w[a1 b1 c1 d]), between(%w[a b c d e f], %w[f e d c b a]), between([], %w[a])]).to eq([nil, nil, nil])
  end

  it "tells any change of order, with records that come, leave and change" do
    random = Random.new(3)
    200.times do
      before = ("a".."z").to_a.sample(20, random: random)
      now = before.dup
      random.rand(1..4).times do
        case random.rand(4)
        when 0 then now.delete_at(random.rand(now.size)).then { |name| now.insert(random.rand(0..now.size), name) }
        when 1 then now.delete_at(random.rand(now.size))
        when 2 then now[random.rand(now.size)] += "1"
        else now.insert(random.rand(0..now.size), (("a".."z").to_a - now.map { |name| name[0] }).first)
        end
      end
      expect(patched(before, between(before, now))).to eq(now)
    end
  end
end
