# frozen_string_literal: true

# The stand-in desk: desk.rb OSC-PORT FIRST-SEND-PORT FIRST-RETURN-PORT HOME
require_relative "life"

Loomshuttle.load_parts(:core, :stand_ins)
osc, sends, returns, home = ARGV
Life.lead do
  Loomshuttle::StandIns::Desk::Server.new(profile: File.join(Loomshuttle::ROOT, "profiles", "rowan-16.json"), osc_port: osc.to_i,
                                          sends_port: sends.to_i, returns_port: returns.to_i, folder: home,
                                          first_memory: File.join(Loomshuttle::ROOT, "demo", "desk.json"))
end
