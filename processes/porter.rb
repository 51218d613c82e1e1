# frozen_string_literal: true

# Exports and the like, outside of web requests: porter.rb HOME
require_relative "life"

Loomshuttle.load_parts(:core, :porter)
Life.lead { Loomshuttle::Porter::Server.new(home: ARGV.first) }
