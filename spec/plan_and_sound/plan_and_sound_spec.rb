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
    Loomshuttle::Web::Desk::FromPlan.settings(show).each { |address, value| desk.settings.set(address, value) }
    show.channels.each_key do |number|
      desk.settings.set("strip/#{number}/tilt", 0.0)
      desk.settings.set("strip/#{number}/fader", mix[:faders].fetch(number).to_f)
    end
    mix[:sends].each { |(number, bus), level| desk.settings.set("strip/#{number}/bus/#{bus}", level.to_f) }
  end

  def random_mix(show, random)
    sends = 12.times.to_h { [[show.channels.keys.sample(random: random), random.rand(1..show.profile.buses)], random.rand(-20..6)] }
    { faders: show.channels.keys.to_h { |number| [number, [-90, random.rand(-24..6)].sample(random: random)] }, sends: sends }
  end

  # Amplitude of a full period of the tone.
  def amplitude(samples) = Math.sqrt((Numo::DFloat.cast(samples)**2).mean * 2)

  # Plan's name of a stand-in's socket: "a.2/7" is the box at place 2 of port a.
  def plan_point(show, name, kind)
    box = %r{\A([a-z])\.(\d+)/(\d+)\z}.match(name) or return point("desk/#{name}")
    show.layout.chain(box[1])[box[2].to_i - 1].socket(kind, box[3].to_i)
  end

  def measured(desk, show)
    2.times { desk.step }
    sends = (0...show.profile.sends).to_h { |lane| [point("card/send/#{lane + 1}"), amplitude(desk.last.sends[true, lane]) / 8_388_608.0] }
    sends.merge(desk.heard.to_h { |name, samples| [plan_point(show, name, "out"), amplitude(samples)] })
  end

  def compare(seed)
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
    planned = Loomshuttle::Signal::Reach.amplitudes(Loomshuttle::Signal.build(show), Loomshuttle::Signal::Levels.mixed(show, **mix), plan_point(show, model.sockets[index], "in")).transform_values { |one| one * 0.01 }
    [measured(desk, show), planned]
  end

  it "agree within 0.1 dB at every card send and output, and in silence, on 200 random rigs" do
    heard = 0
    200.times do |seed|
      measured, planned = compare(seed)
      measured.each do |point, amplitude|
        wanted = planned.fetch(point, 0.0)
        if wanted > 3e-5 # below that the 24-bit converter's steps count
          heard += 1
          expect(20 * Math.log10(amplitude / wanted)).to be_within(0.1).of(0), "#{point} of seed #{seed}: measured #{amplitude}, planned #{wanted}"
        else
          expect(amplitude).to be < 6e-5, "#{point} of seed #{seed} should be silent, but has #{amplitude}"
        end
      end
      missed = planned.select { |point, wanted| wanted > 3e-5 && (point.card_send? || %w[out lineout aes personal].include?(point.kind)) }.keys - measured.keys
      expect(missed).to eq([]), "seed #{seed}: planned, but not measured"
    end
    expect(heard).to be > 400
  end

  it "hear the difference when one setting differs" do
    show = CoreHelp.set(CoreHelp.straight(4), "channel/1/gain" => 6)
    desk = stand_in({ "desk" => "rowan-16" }, TestTone.new(0, 18))
    set_up(desk, show, { faders: show.channels.keys.to_h { |number| [number, 0] }, sends: {} })
    desk.settings.set("strip/1/gain", 7.0)
    levels = Loomshuttle::Signal::Levels.mixed(show, faders: {})
    planned = Loomshuttle::Signal::Reach.amplitudes(Loomshuttle::Signal.build(show), levels, point("desk/in/1"))[point("card/send/1")] * 0.01
    expect(20 * Math.log10(measured(desk, show)[point("card/send/1")] / planned)).to be_within(0.02).of(1)
  end
end
