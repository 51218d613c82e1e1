# frozen_string_literal: true

module Loomshuttle
  module Web
    # Opens another show, and asks first what becomes of channels on take.
    class ShowSwitch
      # @param control [Control]   @param open_show [OpenShow]   @param sync [Desk::Sync]
      def initialize(control, open_show, sync)
        @control, @open_show, @sync = control, open_show, sync
      end

      # Makes another show the one that is edited, captured and compared with the desk. Nothing is sent to the desk, except a return to stage
      # that somebody wants first.
      # @param on_take ["stage", "keep", nil] what becomes of channels on take
      # @raise [Invalid] when there is no such show   @raise [Desk::OnTake::Undecided]
      def open_show(id, on_take: nil, who: "somebody")
        if @open_show.known? && @open_show.seen.id != id
          @control.guard.whole("opening another show")
          settle_take(on_take, "open another show", who)
        end
        @open_show.turn_to(id)
      end

      # @return [Array<Integer>] channels that hear the take at the desk
      def on_take = @sync.on_take(@open_show.seen.show)

      # Called before an action that would leave channels on take unnoticed.
      # @param choice ["stage", "keep", nil]   @param what [String] the action
      # @raise [Desk::OnTake::Undecided] when nobody has chosen   @raise [Invalid] when they did not return
      def settle_take(choice, what, who)
        channels = on_take
        return if channels.empty? || choice == "keep"
        raise Desk::OnTake::Undecided.new(channels.size, what) unless choice == "stage"

        problems = @control.flip(to: "stage", channels: nil, version: nil, who: who)[:desk_problems]
        raise Invalid.new("The desk did not return to stage: #{problems.first}", where: "desk") if problems.any?
      end
    end
  end
end
