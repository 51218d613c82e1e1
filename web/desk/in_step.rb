# frozen_string_literal: true

require "json"

module Loomshuttle
  module Web
    module Desk
      # Brings plan and desk in sync in either direction. What would be overwritten is shown first, and saved as a copy.
      class InStep
        # @param control [Control]  @param link [Link]  @param sync [Sync]  @param copies [Store::DeskCopies]
        def initialize(control, link:, sync:, copies:)
          @control, @link, @sync, @copies = control, link, sync, copies
        end

        # @return [Hash] schema DeskState
        def state
          show = @control.current.show
          differences = @sync.differences(show) || []
          { up: @link.up?, away: @sync.away(show), rig: @sync.rig_apart(show), copies: @copies.list(@control.seen.id),
            differences: differences.map { |one| told(show, one) } }
        end

        # @return [String, nil] why plan and desk cannot be compared now
        def away = @sync.away(@control.current.show)

        # @return [Hash] a saved copy of the desk with :label and :values
        # @raise [Invalid] if there is none
        def copy(id) = @copies.find(@control.seen.id, id)

        # Sets the desk to the plan where it differs, and saves its previous settings.
        # @param paths [Array<String>, nil] settings to send; nil for all that differ
        # @param on_take ["stage", "keep", nil] what to do with channels that are on take at the desk or in the plan; "keep" leaves them all
        # @return [Hash] :problems, and the saved :copy, or nil
        # @raise [OnTake::Undecided] if channels are or would be on take and no choice was made
        def send_plan(paths:, who:, on_take: nil)
          @control.settle_take(on_take, "send the plan", who)
          show = @control.current.show
          paths = unflipped(show, paths, on_take)
          guard(show, paths)
          copy = keep_copy(show, "before the plan was sent", who) if @link.up?
          problems = @sync.send_plan(show, paths)
          @control.touch
          { problems: problems, copy: copy }
        end

        # Reads the desk's settings into the plan; the journal keeps the previous plan.
        # @return [Hash] as Control#edit
        def read(paths:, version:, who:) = @control.edit(version: version, who: who, wait: true) { |show| @sync.read_edit(show, paths) }

        # What restoring a saved copy would change at the desk, in words.
        # @return [Array<Hash>] path, what, field, plan (the copy's), desk
        def restore_preview(id)
          show = @control.current.show
          kept, now = ToPlan.settings(show, copy(id)[:values]), ToPlan.settings(show, @link.mirror)
          kept.filter_map { |path, value| told(show, Sync::Difference.new(path: path, plan: value, desk: now[path])) unless @link.same?(now[path], value) }
        end

        # Sets the desk to a saved copy.
        # @return [Hash] as send_plan
        def restore(id, who:, on_take: nil)
          @control.guard.whole("restoring a copy of the desk")
          values = copy(id)[:values]
          to_take = OnTake.channels(values, @control.current.show.profile)
          raise OnTake::Undecided.new(to_take.size, "restore this copy, in which they are on take") if to_take.any? && on_take.nil?

          values = values.merge(OnTake.returning(values)) if on_take == "stage"
          values = values.reject { |address, _| OnTake::HEARS.match?(address) } if on_take == "keep"
          copy = keep_copy(@control.current.show, "before copy #{id} was restored", who) if @link.up?
          problems = @link.up? ? @sync.send_values(values) : [@sync.away(@control.seen.show)]
          @control.touch
          { problems: problems, copy: copy }
        end

        # Asks a stand-in desk to take on the plan's rig; it restarts with that.
        # @raise [Invalid] if the desk is not a stand-in
        def stand_in
          @control.guard.whole("letting the desk stand in another rig")
          @link.workshop("rig", JSON.generate(rig(@control.current.show)))
        rescue Exchange::Failed => e
          raise Invalid.new("#{e.message} Only a simulated desk can load another rig.", where: "desk")
        end

        # Plugs the stand-in's cables between playback interface and sockets as planned, without interrupting anything.
        # @raise [Invalid] if the desk is not a stand-in
        def plug(show)
          @link.workshop("cables", JSON.generate(cables(show)))
        rescue Exchange::Failed => e
          raise Invalid.new("#{e.message} Only simulated cables can be plugged from here.", where: "desk")
        end

        private

        # A plan that is sent moves no channel to take unasked.
        def unflipped(show, paths, choice)
          flips = @sync.differences(show).to_a.select { |one| OnTake.path?(one.path) && (paths.nil? || paths.include?(one.path)) }
          return paths if flips.empty?
          raise OnTake::Undecided.new(flips.size, "send the plan, which has them on take") if choice.nil? && flips.any? { |one| one.plan == "take" }
          return paths unless choice == "keep"

          (paths || @sync.differences(show).map(&:path)) - flips.map(&:path)
        end

        # Output => socket in the desk's words.
        def cables(show)
          show.cables.values.select(&:to).to_h { |cable| [cable.output.to_s, socket(show, cable.to)] }.compact
        end

        # @return [String, nil] nil where the box does not stand
        def socket(show, point)
          return "#{point.kind}/#{point.number}" unless point.box?

          hung = show.layout.hung.find { |one| one.letter == point.letter && point.number <= one.box.inputs } or return
          "#{hung.port}.#{show.layout.chain(hung.port).index(hung) + 1}/#{point.number}"
        end

        # What is sent changes the desk as an edit would.
        def guard(show, paths)
          differing = @sync.differences(show).to_a.select { |one| paths.nil? || paths.include?(one.path) }
          @control.guard.edit(show, differing.map { |one| Settings::Change.new(path: one.path, from: one.desk, to: one.plan) })
        end

        def keep_copy(show, label, who)
          values = @link.mirror.slice(*FromPlan.settings(show).keys)
          @copies.keep(@control.seen.id, desk: @link.profile.to_s, label: label, who: who, values: values)
        end

        def told(show, difference)
          told = Settings::Telling.change(show, difference.path, difference.plan, difference.desk)
          { path: told.path, what: told.what, field: told.field, plan: told.from, desk: told.to }
        end

        # The rig file of a stand-in (docs/desk-control.md).
        def rig(show)
          boxes = show.profile.ports.flat_map { |port| show.layout.chain(port) }.map do |hung|
            { profile: hung.box.id, port: hung.port, input_offset: hung.up.min - 1, output_offset: hung.down.min - 1 }
          end
          interface = show.rig.interface && show.catalog.fetch("interface", show.rig.interface)
          profiles = [show.profile, *show.layout.hung.map(&:box), *interface].uniq(&:id).map(&:to_json_data)
          { desk: show.rig.desk, rate: show.rate, boxes: boxes, profiles: profiles, interface: interface&.id, cables: interface ? cables(show) : {} }
        end
      end
    end
  end
end
