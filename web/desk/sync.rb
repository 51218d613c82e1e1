# frozen_string_literal: true

module Loomshuttle
  module Web
    module Desk
      # Brings plan and desk into step, setting by setting, and tells where they differ.
      class Sync
        # path of the setting, what the plan says and what the desk says, both as the plan keeps them
        Difference = Value.define(:path, :plan, :desk)

        # @param link [Link]
        def initialize(link)
          @link = link
        end

        # @param show [Patch::Show]
        # @return [Array<Difference>, nil] nil while the desk does not answer
        def differences(show)
          return nil unless @link.up?

          mirror = @link.mirror
          show.settings.filter_map do |path, value|
            address = Words.address(path) or next
            next if @link.same?(mirror[address], Words.to_desk(path, value))

            Difference.new(path: path, plan: value, desk: Words.from_desk(path, mirror[address]))
          end
        end

        # Sets the desk to what the plan says at some paths; order is that of the plan's own edits, so that a tap is
        # never asked of a source that lacks it.
        # @return [Array<String>] what could not be set, as sentences; empty when all is read back equal
        def send_plan(show, paths)
          return ["The desk does not answer; the plan is kept and can be sent later."] unless @link.up?

          paths.filter_map do |path|
            address = Words.address(path) or next
            @link.set(address, Words.to_desk(path, show.get(path)))
            nil
          rescue Link::Failed => e
            e.message
          end
        end

        # @return [Patch::Edit] that makes the plan say what the desk says
        def read_edit(show)
          differing = differences(show) or raise Invalid.new("The desk does not answer.", where: "desk")
          Patch::Edit.set("Read the desk into the plan", differing.to_h { |difference| [difference.path, difference.desk] })
        end
      end
    end
  end
end
