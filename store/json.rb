# frozen_string_literal: true

module Loomshuttle
  module Store
    # JSON values as they come from the database, without Sequel's wrappers.
    module Json
      # @return [Object] Hash, Array, String, Numeric, true, false or nil, at every depth
      def self.plain(value)
        return value.to_hash.transform_values { |one| plain(one) } if value.respond_to?(:to_hash)
        return value.to_ary.map { |one| plain(one) } if value.respond_to?(:to_ary)

        value
      end
    end
  end
end
