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
              there = known.select { |setting| setting.on_desk?(show.profile, key) }
              there.each { |setting| found << [collection.path(key, setting.field), format(setting.desk, key.to_s.sub("-", "/")), setting, key] }
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
            when :point then source(Rig::Point.read(value))
            else value
            end
          end

          # @param point [Rig::Point, nil] of the plan
          # @return [String] as the desk names it: "a/17" for lane 17 up link A, "card/5", "ch/17/l"
          def source(point)
            case point&.device
            when nil then ""
            when "link" then "#{point.letter}/#{point.number}"
            when "card" then "card/#{point.number}"
            else [point.kind, point.number, point.side].compact.join("/")
            end
          end

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
