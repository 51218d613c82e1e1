# frozen_string_literal: true

module Loomshuttle
  module Hearing
    # Who hears what leaves the desk: a person, an area, a broadcast, a machine.
    #   ears   one list of points (outputs, personal lanes) for who hears mono, two for who hears left and right
    Listener = Value.define(:id, :ears)
  end
end
