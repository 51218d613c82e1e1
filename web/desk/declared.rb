# frozen_string_literal: true

module Loomshuttle
  module Web
    module Desk
      # Settings that have exactly one counterpart on the desk, as they are declared (Settings::Setting#desk), and how their values are transmitted
      # (docs/desk-control.md). Settings that a desk patches in blocks are not among them.
      module Declared
        class << self
          # @param name [String] of a collection
          # @return [Array<Array(String, String, Symbol)>] path, desk address and sort of value: all names, then all dyes, and so on, in reading order
          def of(show, name)
            collection = Settings.collection(name)
            list = -> { listed(show, collection) }
            collection.list? ? list.call : show.profile.memo([:declared, name], &list)
          end

          # @param desk [Rig::Desk]   @param item [Object] of the collection
          # @return [Hash{String=>Object}] desk address => value
          def at_desk(desk, collection, key, item)
            known(desk, collection, key).to_h { |setting| [address(setting, key), to_desk(setting.kind.sort, setting.plain(item))] }
          end

          # @param sort [Symbol] of Settings::ValueKind
          # @return [Object] the value in the desk's form
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
          # @return [String] the desk's name for it: "a/17" for lane 17 up link A, "card/5", "ch/17/l"
          def source(point)
            case point&.device
            when nil then ""
            when "link" then "#{point.letter}/#{point.number}"
            when "card" then "card/#{point.number}"
            else [point.kind, point.number, point.side].compact.join("/")
            end
          end

          # @return [Object] the desk's value in the plan's form
          # @yieldparam name [String] the desk's name for a source
          def to_plan(sort, value)
            case sort
            when :flag then value == 1
            when :number then value == value.round ? value.round : value
            when :count then value.zero? ? nil : value
            when :point then yield(value)
            else value
            end
          end

          private

          def listed(show, collection)
            found = []
            collection.each_item(show.group(collection)) do |key, _|
              known(show.profile, collection, key).each { |setting| found << [setting, collection.path(key, setting.field), address(setting, key), setting.kind.sort] }
            end
            found.group_by(&:first).values.flatten(1).map { |_, *rest| rest }
          end

          def known(desk, collection, key) = collection.settings.values.select { |setting| setting.on_desk?(desk, key) }
          def address(setting, key) = format(setting.desk, key.to_s.sub("-", "/"))
        end
      end
    end
  end
end
