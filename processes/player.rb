# frozen_string_literal: true

# The player: player.rb CLOCK-PORT FIRST-LANE-PORT CARD-CLOCK-PORT TWIN-PORT FOOT-PORT HOME. In the environment: LOOMSHUTTLE_MIDI,
# raw MIDI devices beside those of the system (colon separated); LOOMSHUTTLE_FOOT, addresses beside this computer that a foot switch may send from.
require_relative "life"

clock, lanes, card, twin, foot, home = ARGV
Life.lead("player", home, :player) do |cautious|
  Loomshuttle::Player::Server.new(home: home, clock: clock.to_i, lanes: lanes.to_i, card_clock: card.to_i, twin: twin.to_i, foot: foot.to_i, cautious: cautious)
end
