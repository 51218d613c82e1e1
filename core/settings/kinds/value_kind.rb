# frozen_string_literal: true

module Loomshuttle
  module Settings
    # Why a value cannot be.
    class Refusal < StandardError; end

    # What values a setting takes: how JSON Schema says it, what sort they are, and the rule that keeps a value or refuses it.
    class ValueKind
      # @return [Hash] JSON Schema
      attr_reader :schema
      # @return [:plain, :flag, :number, :count, :point, :tap, :device] by which they are told to people and to the desk
      attr_reader :sort

      # @yieldparam value [Object] from outside   @yieldparam at [Path] of the setting
      # @yieldreturn [Object] the value to store
      def initialize(schema, sort: :plain, &rule)
        @schema, @sort, @rule = schema.freeze, sort, rule
      end

      # @param at [Path]
      # @return [Object] the value, frozen
      # @raise [Refusal]
      def keep(value, at) = @rule.call(value, at).freeze

      # @param value [Object] that was kept
      # @return [Object] its JSON form; a point becomes its name
      def plain(value) = sort == :point ? value&.name : value

      # @return [ValueKind] that also allows nil
      def or_none
        ValueKind.new(schema.except("enum").merge("type" => [*schema.fetch("type"), "null"]), sort: sort) { |value, at| value.nil? ? nil : keep(value, at) }
      end

      # @yieldparam value [Object] accepted by this kind   @yieldparam at [Path]
      # @yieldreturn [Object] the value to store
      # @return [ValueKind] with one more rule
      def also = ValueKind.new(schema, sort: sort) { |value, at| yield(keep(value, at), at) }
    end
  end
end
