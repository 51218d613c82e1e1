# frozen_string_literal: true

# Exports and the like, outside of web requests: porter.rb HOME
require_relative "life"

Life.lead("porter", ARGV.first, :porter) { |cautious| Loomshuttle::Porter::Server.new(home: ARGV.first, cautious: cautious) }
