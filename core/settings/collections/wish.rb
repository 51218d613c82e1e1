# frozen_string_literal: true

module Loomshuttle
  module Settings
    # What is wanted of the ways from some sources to some listeners, each of each.
    #   kind      "reach": must be heard; "least", "most": at least or at most so many dB against the source; "never": not at all
    #   db        of "least" and "most"
    #   sources   "channel/7": all that channel 7 hears; "return/31": a card return that no channel hears
    #   listeners their numbers
    Wish = declare("wish", :wishes, :list, key: :number, words: ->(_, key) { "Requirement #{key}" }, list: "requirements") do
      setting :kind, Kinds.one_of("reach", "least", "most", "never"), blank: "reach", words: "type"
      setting :db, RoomKinds.figure(-80..20, 10, "dB"), blank: -20, words: "level", unit: "dB"
      setting :sources, RoomKinds.sources, blank: [].freeze, words: "sources"
      setting :listeners, RoomKinds.listeners, blank: [].freeze, words: "listeners"
    end
  end
end
