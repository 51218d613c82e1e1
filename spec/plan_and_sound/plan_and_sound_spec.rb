# frozen_string_literal: true

# What is planned is what is measured: over random rigs and patches, a tone at a socket arrives at every card send and
# output of the stand-in desk as loud as the signal graph says, and nowhere else. The stand-in shares no routing code with
# the application, so that agreement means something.
RSpec.describe "Plan and sound" do
  def stand_in(rig, stage)
    Loomshuttle::StandIns::Desk::Unit.new(VirtualRig.model(rig), ports: { sends: 5000, returns: 6000 }, card: ->(*) {}, reply: ->(*) {}, now: -> { 0.0 }, stage: stage)
  end

  # The plan on the desk, with a flat equaliser and known faders.
  def set_up(desk, show, mix)
    Loomshuttle::Web::Desk::FromPlan.settings(show).each { |address, value| desk.settings.set(address, value) if desk.settings.has?(address) }
    show.channels.each_key { |number| desk.settings.set("strip/#{number}/tilt", 0.0) }
    words = Loomshuttle::Web::Desk::MixLevels
    mix.each { |name, value| desk.settings.set(words.address(name), words.to_desk(value)) if desk.settings.has?(words.address(name)) }
  end

  # Every level that such a desk has: some off, some muted, some panned.
  def random_mix(show, random)
    Loomshuttle::Web::Desk::MixLevels.names(show.profile).to_h { |name| [name, random_level(name, show, random)] }
  end

  def random_level(name, show, random)
    case name
    when %r{/mute\z} then random.rand < 0.1
    when %r{/pan\z} then [-1, 1, 0, random.rand(-0.95..0.95).round(2)].sample(random: random)
    when %r{/trim\z} then show.profile.mixing.trim_db.zero? ? 0 : random.rand(-12..6)
    when %r{\Achannel/\d+/(fader|send)} then [-90, random.rand(-20..6)].sample(random: random)
    else [random.rand(-12..6), -90].sample(random: random)
    end
  end

  # Amplitude of a full period of the tone.
  def amplitude(samples) = Math.sqrt((Numo::DFloat.cast(samples)**2).mean * 2)

  # Plan's name of a stand-in's socket: "a.2/7" is the box at place 2 of port a.
  def plan_point(show, name, kind)
    box = %r{\A([a-z])\.(\d+)/(\d+)\z}.match(name) or return point("desk/#{name}")
    show.layout.chain(box[1])[box[2].to_i - 1].socket(kind, box[3].to_i)
  end

  def measured(desk, show)
    4.times { desk.step } # the longest delay of these rigs, and a block more
    sends = (0...show.profile.sends).to_h { |lane| [point("card/send/#{lane + 1}"), amplitude(desk.last.sends[true, lane]) / 8_388_608.0] }
    sends.merge(desk.heard.to_h { |name, samples| [plan_point(show, name, "out"), amplitude(samples)] })
  end

  # What sounded on a random rig, by seed: the rules below are held against it again and again.
  def self.sounded = @sounded ||= {}

  after(:context) { self.class.sounded.clear }

  # @yield show and mix as the prediction is to have them; the sound has them as they are
  # @return [Array(Hash, Hash)] amplitudes by point: measured, and planned
  def compare(seed)
    show, mix, socket, measured = self.class.sounded[seed] ||= sound(seed)
    [measured, predicted(*(block_given? ? yield(show, mix) : [show, mix]), socket)]
  end

  # @return [Array] the show, how it is mixed, the socket that sounds, and amplitudes by point
  def sound(seed)
    random_rig = RandomRig.new(seed)
    show, random = random_rig.show, random_rig.random
    mix = random_mix(show, random)
    model = VirtualRig.model(random_rig.rig)
    used = model.sockets.each_index.select do |at|
      show.channels.values.any? do |channel|
        channel.stage && show.layout.socket_of(channel.stage) == plan_point(show, model.sockets[at], "in")
      end
    end
    index = (random.rand < 0.8 && used.sample(random: random)) || random.rand(model.sockets.size)
    desk = stand_in(random_rig.rig, TestTone.new(index, model.sockets.size))
    set_up(desk, show, mix)
    [show, mixed_to(desk, show), plan_point(show, model.sockets[index], "in"), measured(desk, show)]
  end

  # As the application reads it from the desk.
  def mixed_to(desk, show) = Loomshuttle::Web::Desk::MixLevels.read(show.profile, desk.settings.addresses.to_h { |address| [address, desk.settings.get(address)] })

  def predicted(show, mix, socket)
    Loomshuttle::Signal::Reach.amplitudes(Loomshuttle::Signal.build(show), Loomshuttle::Signal::Levels.mixed(show, mix), socket).transform_values { |one| one.abs * 0.01 }
  end

  # Below 3e-5 the 24-bit converter's steps count.
  def agree?(measured, wanted) = wanted > 3e-5 ? (20 * Math.log10([measured, 1e-12].max / wanted)).abs <= 0.1 : measured < 6e-5

  it "agree within 0.1 dB at every card send and output, and in silence, on 200 random rigs" do
    heard = 0
    200.times do |seed|
      measured, planned = compare(seed)
      measured.each do |point, amplitude|
        wanted = planned.fetch(point, 0.0)
        heard += 1 if wanted > 3e-5
        expect(agree?(amplitude, wanted)).to be(true), "#{point} of seed #{seed}: measured #{amplitude}, planned #{wanted}"
      end
      missed = planned.select { |point, wanted| wanted > 3e-5 && (point.card_send? || %w[out lineout aes personal].include?(point.kind)) }.keys - measured.keys
      expect(missed).to eq([]), "seed #{seed}: planned, but not measured"
    end
    expect(heard).to be > 400
  end

  # Samples from where an output takes its source to a socket.
  def delay_behind_mixer(graph, point)
    join = graph.into(point).first
    join.delay + (join.to.output? || join.to.kind == "personal" ? 0 : delay_behind_mixer(graph, join.from))
  end

  # Each rule, left out of the prediction alone: the comparison above must find it.
  {
    "pan law" => ->(show, mix) { [show, mix.to_h { |name, value| [name, name.end_with?("/pan") && value != 0 ? -value : value] }] },
    "mute" => ->(show, mix) { [show, mix.transform_values { |value| value == true ? false : value }] },
    "trim" => ->(show, mix) { [show, mix.to_h { |name, value| [name, name.end_with?("/trim") ? 0 : value] }] },
    "tap of sends" => ->(show, mix) { [CoreHelp.set(show, show.channels.keys.to_h { |n| ["channel/#{n}/send_taps", {}] }), mix] },
    "tap of outputs" => ->(show, mix) { [CoreHelp.set(show, show.outputs.keys.to_h { |n| ["output/#{n}/tap", "post-fader"] }), mix] },
    "pair of buses" => ->(show, mix) { [CoreHelp.set(show, show.buses.keys.to_h { |n| ["bus/#{n}/paired", false] }), mix] },
    "subgroup" => ->(show, mix) { [CoreHelp.set(show, show.buses.keys.to_h { |n| ["bus/#{n}/mode", "mix"] }), mix] },
    "main" => ->(show, mix) { [CoreHelp.set(show, show.channels.keys.to_h { |n| ["channel/#{n}/main", true] }), mix] },
    "polarity" => ->(show, mix) { [CoreHelp.set(show, show.channels.keys.to_h { |n| ["channel/#{n}/polarity", false] }), mix] }
  }.each do |rule, without|
    it "disagree where the #{rule} is left out" do
      apart = (0...200).find do |seed|
        measured, planned = compare(seed, &without)
        measured.any? { |point, amplitude| !agree?(amplitude, planned.fetch(point, 0.0)) }
      end
      expect(apart).not_to be_nil
    end
  end

  it "agree on the delay of each output to the sample" do
    delayed = 0
    30.times do |seed|
      random_rig = RandomRig.new(seed)
      show = CoreHelp.set(random_rig.show, random_rig.show.channels.keys.to_h { |n| ["channel/#{n}/position", "stage"] })
      click = Click.new(VirtualRig.model(random_rig.rig).sockets.size)
      desk = stand_in(random_rig.rig, click)
      set_up(desk, show, MixHelp.values(show, show.channels.keys.to_h { |n| ["channel/#{n}/fader", 0] }))
      blocks = Array.new(4) { desk.step.then { desk.heard } }
      graph = Loomshuttle::Signal.build(show)
      blocks.first.each_key do |name|
        samples = blocks.map { |heard| heard.fetch(name) }.reduce(:concatenate).abs
        next if samples.max < 1e-6

        planned = delay_behind_mixer(graph, plan_point(show, name, "out"))
        delayed += 1 if planned > 12
        # Sources at the desk's own sockets come first, those of boxes the boxes' time later.
        expect([0, 12].map { |box| planned + box }).to include(samples.gt(1e-6).where[0]), "#{name} of seed #{seed}"
      end
    end
    expect(delayed).to be > 20
  end

  it "hear the difference when one setting differs" do
    show = CoreHelp.set(CoreHelp.straight(4), "channel/1/gain" => 6)
    desk = stand_in({ "desk" => "rowan-16" }, TestTone.new(0, 18))
    set_up(desk, show, {})
    desk.settings.set("strip/1/gain", 7.0)
    levels = Loomshuttle::Signal::Levels.mixed(show, {})
    planned = Loomshuttle::Signal::Reach.amplitudes(Loomshuttle::Signal.build(show), levels, point("desk/in/1"))[point("card/send/1")] * 0.01
    expect(20 * Math.log10(measured(desk, show)[point("card/send/1")] / planned)).to be_within(0.02).of(1)
  end
end
