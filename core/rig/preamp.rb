# frozen_string_literal: true

module Loomshuttle
  module Rig
    # A preamp's range and steps in dB.
    Preamp = Value.define(:min_db, :max_db, :step_db)
  end
end
