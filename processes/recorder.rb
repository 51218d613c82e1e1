# frozen_string_literal: true

# The recorder: recorder.rb HOME, where the card's session descriptions are
require_relative "life"

Loomshuttle.load_parts(:core, :recorder)
home = ARGV.first
Life.lead do
  Loomshuttle::Recorder::Server.new(sends: File.read(File.join(home, "card-sends.sdp")),
                                    returns: File.read(File.join(home, "card-returns.sdp")), home: home)
end
