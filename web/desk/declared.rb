# frozen_string_literal: true

module Loomshuttle
  module Web
    module Desk
      # Settings that the desk has one for one, as they are declared (Settings::Setting#desk), and how their values are carried
      # (docs/desk-control.md). What a desk patches in blocks is none of these.
      module Declared
        class << self
          # @param name [String] of a collection
          # @return [Array<Array(String, String, Settings::Setting, Object)>] path, desk address, setting and item's key
          def of(show, name)
            collection = Settings.collection(name)
            known = collection.settings.values.select(&:desk)
            found = []
            collection.each_item(show.group(collection)) do |key, _|
              known.each { |setting| found << [collection.path(key, setting.field), format(setting.desk, key.to_s.sub("-", "/")), setting, key] }
            end
            found
          end

          # @param sort [Symbol] of Settings::ValueKind
          # @return [Object] a value as the desk has it
          def to_desk(sort, value)
            case sort
            when :flag then value ? 1 : 0
            when :number then value.to_f
            when :count then value.to_i
            when :point then source(value)
            else value
            end
          end

          # @return [String] a source of the plan ("link/a/up/17") as the desk names it ("a/17")
          def source(point) = point.to_s.sub(%r{\Alink/([a-z])/up/}, '\1/').sub("card/return/", "card/").delete_prefix("desk/")

          # @return [Object] a value of the desk as the plan has it
          # @yieldparam name [String] of a source, as the desk names it
          def to_plan(sort, value)
            case sort
            when :flag then value == 1
            when :number then value == value.round ? value.round : value
            when :count then value.zero? ? nil : value
            when :point then yield(value)
            else value
            end
          end
        end
      end
    end
  end
end
