# frozen_string_literal: true

module Loomshuttle
  module Patch
    # Where a setting's path leads in a show: the group, the number in it, the item there and its field.
    Place = Value.define(:path, :group, :number, :item, :field) do
      # @raise [Invalid] when nothing is at the path
      def self.parse(show, path)
        kind, *rest = path.to_s.split("/")
        return setup_place(show, path, rest) if kind == "setup"

        group = Patch::GROUPS[kind] or no_such(path, "settings start with channel, send, track or setup")
        number, field = rest
        item = show.send(group)[number.to_i] or no_such(path, "this show has no #{kind} #{number}")
        build(path, group, number.to_i, item, field, Patch::FIELDS[group])
      end

      # @return [Array<String>] every path of a show
      def self.all(show)
        numbered = Patch::GROUPS.flat_map do |kind, group|
          show.send(group).keys.flat_map { |n| Patch::FIELDS[group].map { |field| "#{kind}/#{n}/#{field}" } }
        end
        numbered + Patch::FIELDS[:setup].map { |field| "setup/#{field}" }
      end

      def self.setup_place(show, path, rest)
        build(path, :setup, nil, show.setup, rest.first, Patch::FIELDS[:setup])
      end

      def self.build(path, group, number, item, field, fields)
        no_such(path, "known here: #{fields.join(', ')}") unless fields.include?(field&.to_sym)
        new(path: path, group: group, number: number, item: item, field: field.to_sym)
      end

      def self.no_such(path, why) = raise(Invalid.new("There is no setting \"#{path}\": #{why}.", where: path))
    end
  end
end
