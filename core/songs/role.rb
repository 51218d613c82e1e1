# frozen_string_literal: true

module Loomshuttle
  module Songs
    # What an output gets: all stems of a role, or the click, guide or pilot.
    #   kind      one of KINDS      outputs   none, one, or left and right
    #   sum_db    what both sides of a stereo stem are lowered by on one output
    #   gain_db   of all of it      bed_db    how loud it also lies under click and guide; nil: not at all
    Role = Value.define(:name, :kind, :outputs, :sum_db, :gain_db, :bed_db)

    class Role
      KINDS = %w[parts click guide pilot timecode].freeze
      # Those that somebody counts or listens by, and no audience hears.
      CUES = %w[click guide].freeze
      SUMS = [-3, -6].freeze

      # Guesses a role's kind from its name (common practice, no published source).
      # @param name [String]
      # @return [String] of KINDS
      def self.kind_of(name)
        case name
        when /\b(?:click|metronome|klick)\b/i then "click"
        when /\b(?:guide|cues?)\b/i then "guide"
        when /\bpilot\b/i then "pilot"
        when /\b(?:timecode|ltc|smpte)\b/i then "timecode"
        else "parts"
        end
      end

      # @return [Float] amplitude; 1.0 at 0 dB
      def self.amplitude(decibels) = 10**(decibels / 20.0)
    end
  end
end
