# frozen_string_literal: true

module Loomshuttle
  module Settings
    # What leaves on one lane of the card towards the computer: the base point of a channel, bus or main, or nil, and the tap
    # where it is taken; nil: the show's default tap.
    CardSend = declare("send", :sends, :desk, key: :lane, keys: ->(desk) { 1..desk.sends }, words: ->(_, key) { "Card send #{key}" }) do
      source = Kinds.point { |at| at.show.profile.known(:sendable_points) }.also do |base, at|
        taps = at.show.profile.taps_of(base)
        next base if at.item.tap.nil? || taps.include?(at.item.tap)

        Kinds.refuse("#{Rig::Label.for(base)} can be taken at #{taps.join(' or ')} only; set the tap first")
      end
      tap = Kinds.tap_of { |at| at.item.source ? at.show.profile.taps_of(at.item.source) : at.show.profile.taps }

      setting :source, source.or_none, blank: nil, words: "source", part: "sends", capture: :way, desk: "card/send/%s/from"
      setting :tap, tap.or_none, blank: nil, words: "tap", nothing: "as the show", part: "sends", capture: :way
    end
  end
end
