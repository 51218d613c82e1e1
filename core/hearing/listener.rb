# frozen_string_literal: true

module Loomshuttle
  module Hearing
    # A listener: a person, an area, a broadcast or a machine.
    #   ears   one list of points (outputs, personal lanes) for who hears mono, two for who hears left and right
    Listener = Value.define(:id, :ears)
  end
end
