# frozen_string_literal: true

module Loomshuttle
  module LineCheck
    # The verdict on a source: a word, the reason, and what to do.
    #   word     one of Judge::WORDS    reason   a sentence with its figures    advice   what to do, or nil
    #   settings that do it, empty where a hand on stage has to
    Verdict = Value.define(:word, :reason, :advice, :settings)
  end
end
