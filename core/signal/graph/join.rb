# frozen_string_literal: true

module Loomshuttle
  module Signal
    # One step of a signal from a point to the next; from and to are Rig::Points.
    #   gain_db  level change in dB that comes with the structure; where a level decides it, 0
    #   level    place of that level (LevelSlots), or nil; Levels says how loud it is
    #   turned   whether it turns the polarity over
    #   delay    samples
    #   setting  path of the setting that made it, or nil where the device is built so
    #   kind     :rig (a cable), :patch (set by the engineer), :desk (inside a channel), :mix (into buses and mains, or the recorder mix), :file (through the
    #            recorder's file: in now, out at playback)
    #   live     whether sound takes it now; the side a channel is not on, and what a card mode leaves out, are not live
    Join = Value.define(:from, :to, :gain_db, :level, :turned, :delay, :setting, :kind, :live)
  end
end
