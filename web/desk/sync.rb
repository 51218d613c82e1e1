# frozen_string_literal: true

module Loomshuttle
  module Web
    module Desk
      # Compares plan and desk setting by setting, and sends or reads the differences.
      class Sync
        # path of the setting, what the plan says and what the desk says, both as the plan keeps them
        Difference = Value.define(:path, :plan, :desk)
        # The last comparison, kept because the state is sent many times a second and both sides seldom change.
        Compared = Value.define(:show, :mirror, :differences)
        # A desk may restart while it is being set, and forget what it had not yet kept; then everything is compared again.
        ROUNDS = 3
        PREAMP = %r{\Astrip/\d+/(?:gain|phantom)\z}
        private_constant :PREAMP

        # @param link [Link]
        def initialize(link)
          @link = link
        end

        # @param show [Settings::Show]
        # @return [String, nil] profile of the connected desk if the plan is for another one
        def stranger(show) = @link.up? && @link.profile != show.rig.desk ? @link.profile : nil

        # @param show [Settings::Show]
        # @return [Array<Difference>, nil] nil while the desk does not answer or has another profile
        def differences(show)
          return nil if !@link.up? || stranger(show)

          mirror = @link.mirror
          last = @compared # one reference, so that no lock is needed
          return last.differences if last&.show.equal?(show) && last.mirror == mirror

          compare(show, mirror).tap { |found| @compared = Compared.new(show: show, mirror: mirror, differences: found) }
        end

        # @param show [Settings::Show]
        # @return [Array<String>] sentences about boxes at the desk's ports that differ from the plan; no setting can
        #   fix that
        def rig_apart(show)
          return [] if !@link.up? || stranger(show)

          there = @link.boxes.to_s.lines(chomp: true).map { |line| line.split(" ", 3) }.group_by(&:first).transform_values { |list| list.map(&:last) }
          show.profile.ports.filter_map do |port|
            planned, found = show.layout.chain(port).map { |hung| hung.box.id }, there.fetch(port, [])
            "Port #{port.upcase}: the plan has #{chain(show, planned)}, the desk finds #{chain(show, found)}." unless planned == found
          end
        end

        # Sends what an edit changed. A setting that was changed by hand at the desk is left alone and reported; it
        # stays a difference for the user to decide. A desk that waits for the whole plan only gets flips.
        # @param before [Settings::Show]  @param after [Settings::Show]
        # @return [Array<String>] sentences about what was not set; empty if everything was read back as set
        def follow(before, after)
          @link.await
          mirror = @link.mirror # of a desk that is back as it is now
          old, new = planned(before, mirror), planned(after, mirror)
          changed = new.reject { |address, value| old[address] == value }
          changed = changed.select { |address, _| address.end_with?("/hears") } if after.setup.desk_follows == "when sent"
          return [] if changed.empty?
          return [away(after)] if away(after)

          waiting = changed.select { |address, value| mirror.key?(address) && !@link.same?(mirror[address], value) }
          ours, theirs = waiting.partition { |address, _| @link.same?(mirror[address], old[address]) }
          problems = @link.set_all(ours.to_h)
          problems.merge!(@link.set_all(turned_along(mirror, new)))
          problems.values + by_hand(theirs)
        end

        # Flips channels at the desk to their positions in a plan, whatever they are there now.
        # @param show [Settings::Show]
        # @return [Array<String>] sentences about what could not be set; empty if everything was read back as set
        def flip(show)
          @link.await
          return [away(show)] if away(show)

          mirror = @link.mirror
          @link.set_all(differing(FromPlan.settings(show, mirror).select { |address, _| address.end_with?("/hears") }, mirror)).values
        end

        # Flips everything at the desk to stage, whatever show is open.
        # @return [Array<String>] as flip
        def return_to_stage
          @link.await
          return ["The desk does not answer; nothing was sent. Return to stage again when it is back."] unless @link.up?

          @link.set_all(OnTake.returning(@link.mirror)).values
        end

        # @param show [Settings::Show]
        # @return [Array<Integer>] channels on take, as the desk last reported, or by the plan if no desk was ever connected
        def on_take(show)
          mirror = @link.mirror
          return show.channels.values.select { |channel| channel.position == "take" }.map(&:number) if mirror.empty?

          OnTake.channels(mirror, show.catalog.all.find { |profile| profile.id == @link.profile })
        end

        # Sets the desk to the plan wherever it differs.
        # @param paths [Array<String>, nil] settings to send; nil for all that differ
        # @return [Array<String>] sentences about what could not be set; empty if everything was read back as set
        def send_plan(show, paths = nil)
          return [away(show)] if away(show)

          send_values(FromPlan.settings(wanted(show, paths), @link.mirror))
        end

        # @param values [Hash{String=>Object}] desk address => value, such as a saved copy
        # @return [Array<String>] sentences about what could not be set
        def send_values(values)
          problems = {}
          ROUNDS.times do
            session = @link.session
            problems = @link.set_all(differing(values))
            break if problems.empty? && @link.read_again == session && differing(values).empty?
          end
          problems.values
        end

        # @param paths [Array<String>, nil] settings to read; nil for all that differ
        # @return [Settings::Edit] changes the plan to match the desk
        # @raise [Invalid] if the desk cannot be read
        def read_edit(show, paths = nil)
          differing = differences(show) or raise Invalid.new(away(show), where: "desk")
          chosen = paths ? differing.select { |one| paths.include?(one.path) } : differing
          settings = chosen.to_h { |one| [one.path, one.desk] }
          Settings::Edit.set("Read the desk into the plan", paths ? Steps::Completed.settings(show, settings) : settings)
        end

        # @return [String, nil] why nothing can be sent or read now; nil if it can
        def away(show)
          return "The desk does not answer. The plan is saved and can be sent later." unless @link.up?

          other = stranger(show) or return
          "The desk is the #{name(show, other)}, and the plan is for the #{show.profile.name}; nothing was sent."
        end

        private

        # A plan in the desk's words: of two edits the second one begins where the first one ended.
        def planned(show, mirror)
          slots = FromPlan.slots_of(show, mirror)
          @last_planned = [show, slots, FromPlan.settings(show, mirror)] unless @last_planned && @last_planned[0].equal?(show) && @last_planned[1] == slots
          @last_planned[2]
        end

        # Of the desk's settings those that it has otherwise.
        def differing(values, mirror = @link.mirror) = values.select { |address, value| mirror.key?(address) && !@link.same?(mirror[address], value) }

        # Preamps that were as planned and are no more: on its way from socket to socket a channel was at one with another that is set otherwise.
        def turned_along(mirror, planned)
          differing(planned.select { |address, value| PREAMP.match?(address) && @link.same?(mirror[address], value) })
        end

        def compare(show, mirror)
          show = Settings::SharedPreamp.settled(show)
          ToPlan.settings(show, mirror).filter_map do |path, value|
            plan = show.get(path)
            Difference.new(path: path, plan: plan, desk: value) unless @link.same?(value, plan)
          end.freeze
        end

        def name(show, id) = show.catalog.all.find { |profile| profile.id == id }&.name || id

        def chain(show, ids) = ids.empty? ? "no box" : ids.map { |id| name(show, id) }.join(" and ")

        # The plan with the desk's own settings at all paths that are not to be sent.
        def wanted(show, paths)
          return show unless paths

          kept = differences(show).reject { |one| paths.include?(one.path) }.to_h { |one| [one.path, one.desk] }
          Settings::Edit.set("As the desk", Steps::Completed.settings(show, kept)).apply(show).first
        end

        def by_hand(changes)
          return [] if changes.empty?

          more = changes.size > 1 ? " and #{changes.size - 1} more" : ""
          ["The desk was changed by hand at #{changes.first.first}#{more}; it was left as is. Compare, then send or read."]
        end
      end
    end
  end
end
