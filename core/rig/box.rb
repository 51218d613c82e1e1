# frozen_string_literal: true

module Loomshuttle
  module Rig
    # A stage box: sockets on stage, and ports for links. A box with two ports can feed the next box of a chain; offsets say where its own sockets
    # begin on the link.
    class Box
      attr_reader :id, :name, :rates, :inputs, :outputs, :ports, :delay, :preamp

      # @param data [Hash] the parsed JSON
      def initialize(data)
        @id, @name, @rates, @inputs, @outputs, @ports, @delay = data.fetch_values("id", "name", "rates", "inputs", "outputs", "ports", "delay")
        @preamp = Preamp.new(**data.fetch("preamp").transform_keys(&:to_sym))
        @data = data
        freeze
      end

      # @return ["box"]
      def kind = "box"

      # @return [Hash] the profile's data as read
      def to_json_data = @data

      def inspect = "#<Box #{id}>"
    end
  end
end
