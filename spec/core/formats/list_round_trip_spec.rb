# frozen_string_literal: true

# What leaves as a list comes back as it was, on every kind of desk, whatever is patched there.
RSpec.describe Loomshuttle::Formats::InputList do
  # What a list says of a channel, whatever socket it gets.
  let(:told) { %w[name short mic stand spot colour notes] }

  def seeds = ENV.fetch("SEEDS", "60").to_i.times

  # A random show with names, among them pairs on neighbours, words for the stage, and channels that nobody named.
  def show(seed)
    rig = RandomRig.new(seed)
    random = rig.random
    numbers = rig.show.channels.keys.sample(random.rand(1..rig.show.channels.size), random: random)
    # Where channels share a preamp, a list says what applies.
    Loomshuttle::Settings::SharedPreamp.settled(numbers.reduce(with_sockets(rig.show)) { |now, number| named(now, number, random) })
  end

  # A list gives another socket to who has one that is not there.
  def with_sockets(show)
    gone = show.channels.values.select { |channel| channel.stage && show.layout.source(channel.stage).missing }.map(&:number)
    Loomshuttle::Settings::Edit.set("there", Loomshuttle::Steps::Completed.settings(show, gone.to_h { |number| ["channel/#{number}/stage", nil] })).apply(show).first
  end

  def named(show, number, random)
    at = "channel/#{number}"
    words = { "#{at}/name" => "#{%w[Fiddle Été =Sum 太鼓 Voice].sample(random: random)} #{number}", "#{at}/notes" => ["", "spare, \"B\"; 12", "-"].sample(random: random),
              "#{at}/mic" => ["", "clip-on"].sample(random: random), "#{at}/phantom" => random.rand < 0.3, "#{at}/spot" => ["left", nil].sample(random: random) }
    pair = number.odd? && random.rand < 0.3 && show.profile.strip(number).width == 1 && show.channels[number + 1]&.name == ""
    words.merge!("#{at}/name" => "Keys #{number} L", "channel/#{number + 1}/name" => "Keys #{number} R", "#{at}/paired" => true) if pair
    Loomshuttle::Settings::Edit.set("named", words).apply(show).first
  rescue Loomshuttle::Invalid
    show # more than the desk can do
  end

  def back(show) = Loomshuttle::Steps::Propose.for(show, "input_list", "text" => described_class.write(show))

  it "changes no word of it, and nothing at all once every line has what there is to have" do
    seeds.each do |seed|
      before = show(seed)
      after, changes = back(before).edit.apply(before)
      reworded = changes.select do |change|
        told.include?(change.path.split("/").last) && change.path.start_with?("channel/") && !before.channels[change.path[/\d+/].to_i].name.empty?
      end
      expect([seed, before.rig.desk, reworded.map(&:to_h)]).to eq([seed, before.rig.desk, []])
      # On a desk that patches in blocks a pass may free a socket, which the next one gives away.
      settled = back(after).edit.apply(after).first
      expect([seed, before.rig.desk, back(settled).edit.apply(settled).last.map(&:to_h)]).to eq([seed, before.rig.desk, []])
    end
  end
end
