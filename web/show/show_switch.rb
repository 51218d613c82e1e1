# frozen_string_literal: true

module Loomshuttle
  module Web
    # Opens another show, and asks first what becomes of channels on take.
    class ShowSwitch
      # @param control [Control]   @param open_show [OpenShow]   @param sync [Desk::Sync]
      def initialize(control, open_show, sync)
        @control, @open_show, @sync = control, open_show, sync
      end

      # Opens another show for editing, capture and comparison with the desk. Nothing is sent to the desk, except a return to stage
      # if chosen.
      # @param on_take ["stage", "keep", nil] what to do with channels on take
      # @raise [Invalid] if there is no such show   @raise [Desk::OnTake::Undecided]
      def open_show(id, on_take: nil, who: "somebody")
        if @open_show.known? && @open_show.seen.id != id
          @control.guard.whole("opening another show")
          settle_take(on_take, "open another show", who)
        end
        @open_show.turn_to(id)
      end

      # @return [Array<Integer>] channels on take at the desk
      def on_take = @sync.on_take(@open_show.seen.show)

      # Called before an action that would leave channels on take unnoticed.
      # @param choice ["stage", "keep", nil]   @param what [String] the action
      # @raise [Desk::OnTake::Undecided] if no choice was made   @raise [Invalid] if they did not return to stage
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
