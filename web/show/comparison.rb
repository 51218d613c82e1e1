# frozen_string_literal: true

module Loomshuttle
  module Web
    # Any two of: the open show now, a version of it, another show, a preset, the desk, a copy of the desk. Each is named by a
    # reference: "now", "version/7", "show/2", "preset/3", "desk", "copy/5".
    class Comparison
      # One side: its words, its settings, and whether that is all there is (a preset has some of them only).
      Side = Value.define(:label, :settings, :show)

      # @param control [Control]
      def initialize(control)
        @control = control
      end

      # @param one [String]  @param other [String] references
      # @return [Hash] schema Comparison
      # @raise [Invalid] for an unknown reference
      def of(one, other)
        sides = [side(one), side(other)]
        changes = sides.all?(&:show) ? Settings::Compare.shows(*sides.map(&:show)) : partial(*sides.map(&:settings))
        names = sides.filter_map(&:show).first || @control.current.show
        { one: sides.first.label, other: sides.last.label, changes: changes.map { |change| Settings::Telling.change(names, change.path, change.from, change.to).to_h } }
      end

      private

      # Only what both have something to say about.
      def partial(one, other)
        (one.keys & other.keys).filter_map do |path|
          Settings::Change.new(path: path, from: one[path], to: other[path]) unless @control.desk.same?(one[path], other[path])
        end
      end

      def side(reference)
        kind, number = reference.split("/")
        case kind
        when "now" then whole("the plan now", @control.current.show)
        when "version" then whole("version #{number}", @control.shows.at_version(@control.seen.id, number.to_i))
        when "show" then show(number.to_i)
        when "preset" then preset(number.to_i)
        when "desk" then desk("the desk", live_desk)
        when "copy" then copy(number.to_i)
        else raise Invalid.new("There is nothing called \"#{reference}\" to compare.", where: "reference")
        end
      end

      def whole(label, show) = Side.new(label: label, settings: show.settings, show: show)

      def show(id)
        found = @control.shows.load(id).show
        whole("show #{found.about[:name]}", found)
      end

      def preset(id)
        kept = @control.library.presets.find(id)
        Side.new(label: "preset #{kept[:name]}", settings: kept[:settings], show: nil)
      end

      def live_desk
        away = @control.in_step.away and raise Invalid.new(away, where: "desk")
        @control.desk.mirror
      end

      def copy(id)
        kept = @control.in_step.copy(id)
        desk("copy #{id} of the desk, #{kept[:label]}", kept[:values])
      end

      def desk(label, values) = Side.new(label: label, settings: Desk::ToPlan.settings(@control.current.show, values), show: nil)
    end
  end
end
