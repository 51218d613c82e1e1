# frozen_string_literal: true

module Loomshuttle
  module Settings
    # The rig as it is set: the desk's profile, the one rate of all devices in samples a second, which of desk and
    # recorder lead the clock (boxes say it themselves), and the playback interface's profile or nil.
    RigPlan = Value.define(:desk, :rate, :desk_clock, :recorder_clock, :interface)
  end
end
