# frozen_string_literal: true

# The player: player.rb CLOCK-PORT FIRST-LANE-PORT TWIN-PORT HOME
require_relative "life"

clock, lanes, twin, home = ARGV
Life.lead("player", home, :player) { |cautious| Loomshuttle::Player::Server.new(home: home, clock: clock.to_i, lanes: lanes.to_i, twin: twin.to_i, cautious: cautious) }
