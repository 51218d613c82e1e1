# frozen_string_literal: true

module Loomshuttle
  # Frozen values with named fields, equal by content. A change makes a new value.
  module Value
    # Words of the language, which can be fields and no variables.
    WORDS = %i[return end in if do].freeze

    # @param fields [Array<Symbol>] names; all are required by the constructor
    # @param memo [Boolean] whether instances cache what is derived from them (Memo)
    # @return [Class] with keyword construction, `with` and `to_h`
    def self.define(*fields, memo: false, &body)
      Struct.new(*fields) do
        Value.write_construction(self, fields, memo: memo)
        include Memo if memo

        def with(**changes) = self.class.new(**to_h, **changes)

        class_eval(&body) if body
      end
    end

    # Values are made by the thousand for each graph, and keywords that are written out cost no Hash: three times as fast as Struct's own.
    # Caches what is derived from a value, which never changes. Two threads may derive it at the same time, with the same result.
    module Memo
      # @param key [Symbol] name of the result
      # @param under [Array<Object>] what else the result depends on; it is reused only for the identical objects, and only the latest is kept
      # @yieldreturn [Object] the result
      def memo(key, *under)
        known = @memo[key]
        return known.first if known && known.last.size == under.size && known.last.each_with_index.all? { |one, at| one.equal?(under[at]) }

        yield.tap { |found| @memo[key] = [found, under] }
      end
    end

    # @param value [Class]
    def self.write_construction(value, fields, memo:)
      given = fields.map { |field| WORDS.include?(field) ? "binding.local_variable_get(:#{field})" : field }
      value.class_eval(<<~RUBY, __FILE__, __LINE__ + 1)
        def initialize(#{fields.map { |field| "#{field}:" }.join(', ')}) # def initialize(from:, to:)
          super(#{given.join(', ')})                                     #   super(from, to)
          #{'@memo = {}' if memo}                                       #   @memo = {}
          freeze
        end
      RUBY
    end
  end
end
