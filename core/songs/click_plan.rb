# frozen_string_literal: true

module Loomshuttle
  module Songs
    # How a song is counted.
    #   on       whether there is one                   stem       id of a stem that is the click instead, or nil
    #   sound    of Audio::ClickSounds                  level_db   of its accents
    #   subdivision, accents                            count_in   bars before the first, or before its stems where they wait
    ClickPlan = Value.define(:on, :sound, :level_db, :subdivision, :accents, :count_in, :stem)
  end
end
