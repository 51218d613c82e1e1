# frozen_string_literal: true

module Loomshuttle
  module Settings
    # The rig as it is set: the desk's profile, the one rate of all devices in samples a second, which of desk and
    # recorder lead the clock (boxes say it themselves), and the playback interface's profile or nil.
    RigPlan = declare("rig", :rig, :one, words: ->(_, _) { "Rig" }, rig: true) do
      setting :desk, Kinds.device("desk"), blank: ->(desk, _) { desk.id }, part: "rig", capture: :always
      setting :rate, Kinds.one_known("integer", among: RATES) { |at| at.show.profile.rates }, blank: ->(desk, _) { desk.rate }, unit: "Hz", part: "rig", capture: :always,
                                                                                              desk: "clock/rate"
      setting :desk_clock, Kinds.one_of(*CLOCKS), blank: "leads", words: "desk clock", part: "rig", capture: :always
      setting :recorder_clock, Kinds.one_of(*CLOCKS), blank: "follows", words: "recorder clock", part: "rig", capture: :always
      setting :interface, Kinds.device("interface").or_none, blank: nil, words: "playback interface", part: "rig", capture: :always
    end
  end
end
