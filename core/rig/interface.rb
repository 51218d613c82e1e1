# frozen_string_literal: true

module Loomshuttle
  module Rig
    # A playback interface between a computer and the desk's line inputs. Some offer all outputs only at a low rate or bit depth. A twin serves two
    # computers and changes over when the pilot of the first falls silent.
    class Interface
      # The number of outputs available at a rate and bit depth.
      Mode = Value.define(:rate, :bits, :outputs)

      attr_reader :id, :name, :outputs, :computers, :changeover, :modes

      # @param data [Hash] the parsed JSON
      def initialize(data)
        @id, @name, @outputs, @computers = data.fetch_values("id", "name", "outputs", "computers")
        @changeover = data["changeover"]
        @modes = data.fetch("modes").map { |mode| Mode.new(**mode.transform_keys(&:to_sym)) }.freeze
        raise Invalid.new("#{@name} has two computers and must say how it changes over.", where: "changeover") if @computers > 1 && !@changeover

        @data = data
        freeze
      end

      # @return ["interface"]
      def kind = "interface"

      # @return [Array<Integer>]
      def rates = modes.map(&:rate).uniq

      # @return [Integer] usable outputs; 0 if the interface does not support this rate and bit depth
      def outputs_at(rate:, bits:) = modes.select { |mode| mode.rate == rate && mode.bits == bits }.map(&:outputs).max || 0

      # @return [Hash] the profile's data as read
      def to_json_data = @data

      def inspect = "#<Interface #{id}>"
    end
  end
end
