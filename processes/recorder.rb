# frozen_string_literal: true

# The recorder: recorder.rb HOME, where the card's session descriptions are
require_relative "life"

Loomshuttle.load_parts(:core, :recorder)
Life.lead { Loomshuttle::Recorder::Server.new(home: ARGV.first) }
