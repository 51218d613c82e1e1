# frozen_string_literal: true

# The recorder: recorder.rb HOME, where the card's session descriptions are
require_relative "life"

Life.lead("recorder", ARGV.first, :recorder) { |cautious| Loomshuttle::Recorder::Server.new(home: ARGV.first, cautious: cautious) }
