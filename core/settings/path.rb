# frozen_string_literal: true

module Loomshuttle
  module Settings
    # Where a setting's path leads in a show: the group, the number or letter in it, the item there and its field.
    Path = Value.define(:path, :group, :number, :item, :field) do
      # @raise [Invalid] when nothing is at the path
      def self.parse(show, path)
        path = path.to_s
        kind, *rest = path.split("/", -1)
        single = Settings::SINGLES[kind]
        return build(path, single, nil, show.send(single), rest.join("/"), Settings::FIELDS[single]) if single

        group = Settings::GROUPS[kind] or no_such(path, "settings start with #{(Settings::SINGLES.keys + Settings::GROUPS.keys).join(', ')}")
        key, field = rest.first, rest.drop(1).join("/")
        number = Settings::NAMED.include?(group) ? key : key.to_i
        # A setting has one path: "channel/01/name" would be another one of the same.
        item = show.send(group)[number] if number.to_s == key
        item or no_such(path, "this show has no #{kind} #{key}")
        build(path, group, number, item, field, Settings::FIELDS[group])
      end

      def self.build(path, group, number, item, field, fields)
        no_such(path, "known here: #{fields.join(', ')}") unless fields.include?(field&.to_sym)
        new(path: path, group: group, number: number, item: item, field: field.to_sym)
      end

      def self.no_such(path, why) = raise(Invalid.new("There is no setting \"#{Text.readable(path, most: 80)}\": #{Text.readable(why)}.", where: Text.readable(path, most: 80)))
    end
  end
end
