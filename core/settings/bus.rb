# frozen_string_literal: true

module Loomshuttle
  module Settings
    # What a bus is for.
    Bus = declare("bus", :buses, :desk, key: :number, keys: ->(desk) { 1..desk.buses }, words: ->(_, key) { "Bus #{key}" }) do
      setting :name, Kinds.text(NAME), blank: "", part: "names", desk: "bus/%s/label"
    end

    class Bus
      # @return [Rig::Point]
      def point = Rig::Point.desk("bus", number)
    end
  end
end
