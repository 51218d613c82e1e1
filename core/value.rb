# frozen_string_literal: true

module Loomshuttle
  # Frozen values with named fields: equal by content, changed only by making another one.
  module Value
    # @param fields [Array<Symbol>] all are required when a value is made
    # @return [Class] with keyword construction, `with` and `to_h`
    def self.define(*fields, &body)
      Struct.new(*fields, keyword_init: true) do
        define_method(:initialize) do |**given|
          missing = fields - given.keys
          raise ArgumentError, "#{self.class.name} needs #{missing.join(', ')}" unless missing.empty?

          super(**given)
          freeze
        end

        def with(**changes) = self.class.new(**to_h, **changes)

        class_eval(&body) if body
      end
    end
  end
end
