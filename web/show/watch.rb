# frozen_string_literal: true

module Loomshuttle
  module Web
    # Tells all viewers what happens in the plan, at the desk and in the recorder. Its thread:
    #   tells the state     soon after something has happened, and every second
    class Watch
      # Seconds between two tellings of the state when something happens all the time, and when nothing does; and the pause
      # after each telling, as a multiple of its duration, so that a busy crew's edits are not slowed down by it.
      OFTEN = 0.1
      SELDOM = 1.0
      REST = 3

      # @return [Hash, nil] the take under way as it was last known: of a recorder that is not heard it counts as going on
      attr_reader :capturing

      # @param open_show [OpenShow]   @param hub [LiveHub]   @param listener [Listener]   @param parts [Parts]   @param space [FreeSpace]
      def initialize(open_show, hub:, listener:, parts:, space:)
        @open_show, @hub, @listener, @parts, @space = open_show, hub, listener, parts, space
        @touched = Runtime::Wakeup.new
      end

      # @param desk [Desk::Link]   @param sync [Desk::Sync]   @param edit_queue [Desk::EditQueue]
      # @param recorder [RecorderLink]   @param guard [CaptureGuard]   @param shelf [TakeShelf]   @param who_hears [WhoHears]
      def of(desk:, sync:, edit_queue:, recorder:, guard:, shelf:, who_hears:)
        @desk, @sync, @edit_queue, @recorder, @guard, @shelf, @who_hears = desk, sync, edit_queue, recorder, guard, shelf, who_hears
      end

      def start
        @worker = Runtime::Worker.start("tells the state", priority: Runtime::Worker::PATIENT) { |worker| tell_state(worker) }
      end

      def stop = @worker&.stop

      # Notes that the state has changed; screens are notified soon.
      def touch = @touched.wake

      # @return [Hash] the state band's facts (schema LiveState)
      def state
        show = @open_show.seen.show
        compare(show) unless @edit_queue.pending? && @apart && !@sync.away(show)
        State.new(@open_show.seen, guarded: @guard.closed?, apart: @apart, stranger: @sync.stranger(show), desk: @desk, status: @status, recorder: @recorder,
                                   free: @space.bytes, troubles: @parts.troubles, heard: @who_hears.found,
                                   on_take: @sync.on_take(show)).to_h
      end

      # @return [Array<Checks::Finding>] a finding if the card's sample rate is off
      def pace(show) = Checks::CardPace.found(show, @status&.fetch("hz", nil))

      # Reports what the desk did not accept; the state band shows a desk that is away or of another kind.
      # @param problems [Array<String>]
      def followed(problems)
        touch
        return if problems.empty? || !@open_show.known? || @sync.away(@open_show.seen.show)

        more = problems.size > 1 ? " (and #{problems.size - 1} more)" : ""
        @hub.tell("trouble", { text: "#{problems.first}#{more}" })
      end

      # @param status [Hash, nil] nil after the recorder has gone
      def recorder_state(status) = recorder_status(status).then { @shelf.look }

      # @param status [Hash, nil] sent every second
      def recorder_status(status)
        @status = status
        if status
          @capturing = status["capture"]
          @shelf.mirror = status["mirror_folder"]
        end
        touch
      end

      # @param peaks [Array<Float>] dBFS, from Desk::Link
      def desk_meters(peaks, rms)
        @listener.meters("desk", peaks, rms)
        @hub.tell_often("desk", { peak: peaks.map { |one| one.round(1) }, rms: rms.map { |one| one.round(1) } })
      end

      # @param heard [Hash] the recorder's analysis of a second
      def lane_second(heard) = @listener.second(heard["hum"], heard["pairs"])

      # @param frame [Hash] the recorder's levels of the card's lanes
      def lane_meters(frame)
        @listener.meters("lanes", frame["peak"], frame["rms"])
        @hub.tell_often("lanes", frame)
      end

      private

      def compare(show)
        differences = @sync.differences(show)
        @apart = differences&.size
        @listener.follow(show, differences)
      end

      def tell_state(worker)
        @touched.wait(SELDOM)
        from = Runtime::Clock.now
        @hub.tell("state", state, keep: true) if @open_show.known?
        worker.rest([OFTEN / 2, REST * (Runtime::Clock.now - from)].max)
      end
    end
  end
end
