# frozen_string_literal: true

# The stand-in playback interface: interface.rb WORD-CLOCK-PORT FIRST-LANE-PORT CLOCK-OUT-PORT FIRST-CABLE-PORT HOME
require_relative "life"

word, lanes, tell, cables, home = ARGV
Life.lead("interface", home, :stand_ins) do
  # A second computer's lanes and clock are one port further.
  ports = { clock: word.to_i, lanes: [lanes.to_i, lanes.to_i + 1], tell: [tell.to_i, tell.to_i + 1], cables: cables.to_i }
  Loomshuttle::StandIns::Interface::Server.new(profiles: File.join(Loomshuttle::ROOT, "profiles"), first_rig: File.join(Loomshuttle::ROOT, "demo", "rig.json"),
                                               folder: home, ports: ports)
end
