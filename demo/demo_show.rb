# frozen_string_literal: true

require "json"
require_relative "songs"

# The Saltmarsh Nine at the Lantern Quay harbour festival. Invented, like all its devices.
module DemoShow
  FOLDER = __dir__
  CATALOG = Loomshuttle::Rig::Catalog.read(File.join(Loomshuttle::ROOT, "profiles"))
  ABOUT = { name: "Lantern Quay, late set", act: "Saltmarsh Nine", place: "Lantern Quay harbour festival", date: "2026-06-13" }.freeze
  BUSES = ["Wedge left", "Wedge right", "Wedge brass", "Drum fill", "Ear Ada", "Ear Bram", "Ear Cato", "Ear Dora"].freeze

  RIG = { "box/a/spot" => "left", "box/b/spot" => "right", "rig/interface" => "fern-12-twin", "setup/buffer" => 2048, "setup/own_mix" => [37, 38] }.freeze
  # Backing tracks come in over the card and are taken at channel in.
  PLAYBACK = { "channel/31/name" => "Playback L", "channel/31/short" => "PlbL", "channel/31/colour" => "saffron", "channel/31/stage" => "card/return/31",
               "channel/31/paired" => true,
               "channel/32/name" => "Playback R", "channel/32/short" => "PlbR", "channel/32/colour" => "saffron", "channel/32/stage" => "card/return/32",
               "send/31/source" => "desk/ch/31", "send/31/tap" => "channel-in", "send/32/source" => "desk/ch/32", "send/32/tap" => "channel-in",
               "track/31/stereo" => true, "track/31/inputs" => [31, 32], "track/31/armed" => true }.freeze
  OUTPUTS = BUSES.each.with_index(1).flat_map { |name, n| [["bus/#{n}/name", name], ["output/#{n}/source", "desk/bus/#{n}"]] }.to_h
    .merge("output/15/source" => "desk/main/l", "output/15/expected" => "box-b/out/7", "output/16/source" => "desk/main/r", "output/16/expected" => "box-b/out/8",
           "outlet/aes-1/first" => 15, "outlet/lineout-1/first" => nil).freeze

  # A delayed speaker on the bridge, 30 m out; where the main ones and those who hear them stand.
  ROOM = { "output/9/source" => "desk/matrix/1", "output/9/speaker" => "zone", "output/9/x" => 4, "output/9/y" => 30,
           "output/15/speaker" => "main", "output/15/x" => -5, "output/15/y" => 0, "output/16/speaker" => "main", "output/16/x" => 5, "output/16/y" => 0,
           "setup/temperature" => 16 }.freeze
  # By name: where each stands.
  PLACES = { "PA" => [0, 18], "Bridge" => [2, 36], "Wedge left" => [-4, -1], "Wedge right" => [4, -1], "Wedge brass" => [2, -3], "Drum fill" => [0, -4] }.freeze
  # Kind, level or nil, channels, names of listeners.
  WISHES = [["least", -15, [10], %w[Ada]], ["reach", nil, [31, 32], %w[PA Bridge]], ["never", nil, [13, 14], %w[Ada Bram Cato Dora]], ["most", -6, [6, 22], %w[Bram]]].freeze

  # One fault of each kind that leaves the sound running.
  FAULTS = {
    "box/b/clock" => "leads",                                                                   # two devices lead the clock
    "channel/30/stage" => "desk/in/16",                                                         # a socket that the desk does not have
    "track/12/inputs" => [11],                                                                  # two tracks on one lane
    "track/7/outputs" => [8], "track/8/outputs" => [7],                                         # crossed on the way back
    "send/4/tap" => "post-eq",                                                                  # processed twice at soundcheck
    "send/31/tap" => nil, "send/32/tap" => nil,                                                 # the preamp of a channel that hears the card
    "channel/33/name" => "Guest voice", "send/33/source" => "desk/ch/33", "track/33/inputs" => [33], "track/33/armed" => true, # hears nothing, yet armed
    "send/23/source" => nil, "send/24/source" => nil, "send/34/source" => "desk/ch/23", "send/35/source" => "desk/ch/24",
    "track/23/inputs" => [34, 35],                                                              # stereo on even and odd
    "track/10/name" => "Voice", "track/11/name" => "Voice",                                     # two files of one name
    "setup/monitoring" => "computer",                                                           # heard through the computer, too late
    "setup/own_mix" => [1, 2],                                                                  # the recorder's mix on returns of tracks
    "outlet/a-2/first" => 1,                                                                    # main comes out elsewhere
    "bus/9/name" => "Talkback",                                                                 # a bus that nobody hears
    "bus/10/name" => "Reeds", "bus/10/mode" => "subgroup", "bus/10/main" => true, "channel/5/groups" => [10], # on main twice
    "bus/1/tap" => "post-fader",                                                                # a wedge that moves with the faders
    "output/9/delay" => 0,                                                                      # a delayed speaker that is not
    "wish/1/db" => -6,                                                                          # a voice that is not loud enough for its singer
    "role/5/outputs" => [],                                                                     # a role of a song that goes nowhere
    "role/4/outputs" => [3]                                                                     # both sides on one output, where they cancel
  }.freeze

  # What songs are made of, on their way: name, kind, outputs; outputs into sockets of the desk from In 3 on, which channels 34 to 38 hear, each
  # through a free slot.
  ROLES = [["Strings", "parts", [1, 2]], ["Low brass", "parts", [1, 2]], ["Frame loop", "parts", [3]], ["Choir", "parts", [1, 2]], ["Sea", "parts", [1, 2]],
           ["Click", "click", [4]], ["Guide", "guide", [5]], ["Pilot", "pilot", [12]]].freeze
  STEMS = { 34 => "Stems L", 35 => "Stems R", 36 => "Loop", 37 => "Click", 38 => "Guide" }.freeze
  SONGS = ["Herring Tide", "Ropewalk", "The Long Slip", "Lamplighter's Reel", "Out with the Ebb"].freeze

  # By bus: channel and level.
  SENDS = { 1 => { 4 => -9.0, 5 => -12.0, 10 => -6.0, 9 => -14.0 }, 2 => { 11 => -6.0, 12 => -8.0, 21 => -12.0, 28 => -14.0 },
            3 => { 1 => -10.0, 2 => -6.0, 3 => -6.0, 18 => -8.0, 19 => -9.0 }, 4 => { 6 => -8.0, 7 => -6.0, 25 => -10.0, 31 => -12.0, 32 => -12.0, 36 => -12.0, 37 => -6.0 },
            5 => { 4 => -18.0, 31 => -20.0, 34 => -16.0, 35 => -16.0, 37 => -12.0, 38 => -9.0 }, 6 => { 5 => -16.0, 22 => -20.0 } }.freeze

  module_function

  def step(show, kind, options = {}) = apply(show, Loomshuttle::Steps::Propose.for(show, kind, options).edit.settings)
  def apply(show, settings) = Loomshuttle::Settings::Edit.set("demo", Loomshuttle::Steps::Completed.settings(show, settings)).apply(show).first

  def clean
    show = Loomshuttle::Settings::Show.blank(CATALOG, ABOUT.merge(name: "Lantern Quay, clean"), desk: "alder-40")
    show = 2.times.reduce(show) { |now, _| step(now, "add_box", "profile" => "bramble-16", "port" => "a") }
    show = apply(show, RIG)
    show = step(show, "input_list", "text" => File.read(File.join(FOLDER, "inputs.csv")))
    show = apply(apply(show, PLAYBACK), OUTPUTS)
    listening(playing(step(show, "main_mix")))
  end

  # Songs, to the stage: cables, channels, roles and the running order.
  def playing(show)
    settings = { "playback/pilot_on" => true, "role/order" => (1..ROLES.size).to_a, "setlist/order" => (1..SONGS.size).to_a }
    ROLES.each.with_index(1) { |(name, kind, outputs), n| settings.merge!("role/#{n}/name" => name, "role/#{n}/kind" => kind, "role/#{n}/outputs" => outputs) }
    SONGS.each.with_index(1) { |title, n| settings.merge!("setlist/#{n}/title" => title, "setlist/#{n}/song" => DemoSongs.id(n)) }
    STEMS.each do |channel, name|
      settings.merge!("channel/#{channel}/name" => name, "channel/#{channel}/colour" => name == "Click" ? "iron" : "saffron",
                      "channel/#{channel}/stage" => "desk/in/#{channel - 31}", "channel/#{channel}/gain" => 0, "cable/#{channel - 33}/to" => "desk/in/#{channel - 31}")
    end
    apply(show, settings)
  end

  # Who hears what leaves the desk, where they stand and what they want.
  def listening(show)
    show = step(apply(show, ROOM), "listeners")
    show = apply(show, show.listeners.values.select { |one| one.name == "Matrix 1" }.to_h { |one| ["listener/#{one.number}/name", "Bridge"] })
    numbers = show.listeners.values.to_h { |one| [one.name, one.number] }
    places = PLACES.flat_map { |name, (x, y)| [["listener/#{numbers.fetch(name)}/x", x], ["listener/#{numbers.fetch(name)}/y", y]] }.to_h
    step(apply(apply(show, places), wishes(numbers)), "speaker_delays")
  end

  def wishes(numbers)
    WISHES.each.with_index(1).reduce({ "wish/order" => (1..WISHES.size).to_a }) do |all, ((kind, level, channels, names), n)|
      all.merge({ "wish/#{n}/kind" => kind, "wish/#{n}/db" => level, "wish/#{n}/sources" => channels.map { |channel| "channel/#{channel}" },
                  "wish/#{n}/listeners" => names.map { |name| numbers.fetch(name) } }.compact)
    end
  end

  def faulty = apply(clean, FAULTS).with(about: ABOUT)

  def rig
    { desk: "alder-40", rate: 48_000, boxes: [{ profile: "bramble-16", port: "a" }, { profile: "bramble-16", port: "a", input_offset: 16, output_offset: 8 }],
      interface: "fern-12-twin", cables: (1..5).to_h { |output| [output.to_s, "in/#{output + 2}"] } }
  end

  # The plan in the desk's words, and a mix that nobody plans: faders, and voices in their singers' ears.
  def desk(show)
    levels = show.channels.keys.to_h { |n| ["strip/#{n}/fader", n > 32 && !n.between?(34, 36) ? -90.0 : -6.0 - ((n * 5) % 9)] }
    (1..4).each { |ear| [10, 11, 12, 29].each { |voice| levels["strip/#{voice}/bus/#{ear + 4}"] = -12.0 } }
    SENDS.each { |bus, sends| sends.each { |channel, level| levels["strip/#{channel}/bus/#{bus}"] = level } }
    levels.merge!("matrix/1/main/l" => -6.0, "matrix/1/main/r" => -6.0)
    sends = %r{\Astrip/\d+/bus/\d+/} # as a desk has them from the start
    usual = Loomshuttle::Web::Desk::FromPlan.settings(Loomshuttle::Settings::Show.blank(CATALOG, ABOUT, desk: "alder-40"))
    Loomshuttle::Web::Desk::FromPlan.settings(show).reject { |address, value| sends.match?(address) && usual[address] == value }.merge(levels)
  end

  def write(name, data) = File.write(File.join(FOLDER, name), "#{JSON.pretty_generate(data)}\n")

  def make
    shipped = CATALOG.all.map(&:id)
    { "clean.json" => clean, "show.json" => faulty }.each { |name, show| write(name, Loomshuttle::Formats::ShowFile.write(show, shipped: shipped)) }
    write("rig.json", rig)
    write("desk.json", desk(faulty))
  end
end
