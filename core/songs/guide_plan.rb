# frozen_string_literal: true

module Loomshuttle
  module Songs
    # The spoken guide of a song.
    #   on, level_db     voice   language as espeak-ng names it     speed   words a minute      count   beats counted before it
    GuidePlan = Value.define(:on, :level_db, :voice, :speed, :count)
  end
end
