# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # A track as the recorder needs it: lanes are 1-based, inputs from the card's sends, outputs to its returns.
    Track = Value.define(:number, :name, :inputs, :outputs, :armed) do
      # @param data [Hash] as it comes over JSON-RPC
      # @raise [Invalid] saying what does not fit
      def self.parse(data)
        number, name, inputs, outputs = data.values_at("number", "name", "inputs", "outputs")
        fits = number.is_a?(Integer) && name.is_a?(String) && lanes?(inputs) && lanes?(outputs)
        raise Invalid.new("a track needs number, name, and inputs and outputs as lists of lanes", where: "tracks") unless fits

        new(number: number, name: name, inputs: inputs, outputs: outputs, armed: data["armed"] == true)
      end

      def self.lanes?(list) = list.is_a?(Array) && list.size <= 2 && list.all? { |lane| lane.is_a?(Integer) && lane.positive? }

      # @return [Boolean] whether a capture writes it
      def captured? = armed && !inputs.empty?
    end
  end
end
