# frozen_string_literal: true

# The stand-in desk: desk.rb OSC-PORT FIRST-SEND-PORT FIRST-RETURN-PORT HOME [WORD-CLOCK-PORT FIRST-CABLE-PORT CARD-CLOCK-PORT]
require_relative "life"

osc, sends, returns, home, clock, cables, card = ARGV
demo = File.join(Loomshuttle::ROOT, "demo")
Life.lead("desk", home, :stand_ins) do |cautious|
  Loomshuttle::StandIns::Desk::Server.new(profiles: File.join(Loomshuttle::ROOT, "profiles"), first_rig: File.join(demo, "rig.json"),
                                          first_memory: File.join(demo, "desk.json"), osc_port: osc.to_i, sends_port: sends.to_i,
                                          returns_port: returns.to_i, folder: home, cautious: cautious,
                                          clock_port: clock&.to_i, cables_port: cables&.to_i, card_clock_port: card&.to_i,
                                          slow: ENV.fetch("LOOMSHUTTLE_SLOW_DESK", "1").to_i.clamp(1, 5))
end
