# frozen_string_literal: true

module Loomshuttle
  module Songs
    # What is said before a section.
    #   on, level_db     voice   language as espeak-ng names it     speed   words a minute      count   beats counted before it
    GuidePlan = Value.define(:on, :level_db, :voice, :speed, :count)
  end
end
