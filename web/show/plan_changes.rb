# frozen_string_literal: true

require "sequel"

module Loomshuttle
  module Web
    # Makes every change of the plan: edits, undo and redo, flips. The store saves it, desk and recorder follow, and all viewers are told.
    class PlanChanges
      # Longest waits for the desk and for the recorder (seconds).
      DESK, RECORDER = 2.4, 1.5

      # @param open_show [OpenShow]   @param shows [Store::Shows]   @param guard [CaptureGuard]
      # @param edit_queue [Desk::EditQueue] of the desk   @param sync [Desk::Sync]
      # @param on_change [Proc] called with the new version and the seconds that somebody waits for the recorder
      def initialize(open_show, shows, guard:, edit_queue:, sync:, on_change:)
        @open_show, @shows, @guard, @edit_queue, @sync, @on_change = open_show, shows, guard, edit_queue, sync, on_change
      end

      # Applies an edit, has desk and recorder follow, and notifies every screen.
      # @param version [Integer, nil]  @param show [Integer, nil] id of the intended show
      # @param wait [Boolean] whether to return only after desk and recorder have followed, or their time is up
      # @yieldparam show [Settings::Show] the newest version, for edits computed from it
      # @yieldreturn [Settings::Edit]
      # @return [Hash] version, changes, the changes in words and, if it waited, desk problems
      def edit(version:, who:, person: nil, show: nil, wait: false, &compute)
        made(wait) do |known|
          same_show(show)
          @shows.apply(known.id, version: version, who: who, person: person, known: known.loaded, check: @guard.method(:edit), &compute)
        end
      end

      # Ignores the version that the person has seen: later changes are compared setting by setting.
      # @param kind ["undo", "redo"]
      # @return [Hash] as edit
      def revert(who:, kind:, person: nil, show: nil, wait: false, **)
        made(wait) do |known|
          same_show(show)
          @shows.revert(known.id, who: who, person: person, kind: kind, known: known.loaded, check: @guard.method(:edit))
        end
      end

      # Flips channels between stage and take. On the way back to stage the desk comes first: it is set before the plan, whatever
      # else hangs, and the answer says what the desk really did.
      # @param to ["stage", "take"]   @param channels [Array<Integer>, nil]   @param tracks [Array<Integer>, nil] of a take whose channels alone go to take
      # @return [Hash] as edit, with what the desk did not take
      def flip(to:, channels:, version:, who:, tracks: nil, person: nil, show: nil)
        unless to == "stage"
          return edit(version: version, who: who, person: person, show: show, wait: true) { |newest| Steps::Flip.edit(newest, to: to, channels: channels, tracks: tracks) }
        end

        same_show(show)
        wanted = @open_show.seen.show.then { |now| Steps::Flip.edit(now, to: to, channels: channels).apply(now).first }
        problems = @edit_queue.now { channels ? @sync.flip(wanted) : @sync.return_to_stage }.wait(DESK)
        made = edit(version: version, who: who, person: person, show: show) { |newest| Steps::Flip.edit(newest, to: to, channels: channels) }
        made.merge(desk_problems: problems)
      rescue Sequel::Error
        raise if problems.nil?

        words = "Plan not saved: no reply from the database#{'. The desk is back on stage' if problems.empty?}."
        { version: @open_show.seen.version, changes: [], said: words, desk_problems: [*problems, words] }
      end

      # @param person [String]
      # @return [Hash] labels of what undo and redo would do for that person
      def undoable(person) = @open_show.seen.then { |derived| @shows.undoable(derived.id, person, version: derived.version) }

      private

      def same_show(id)
        raise Invalid.new("Another show has been opened; nothing was changed.", where: "show") unless id.nil? || id == @open_show.seen.id
      end

      def made(wait, &)
        before = @open_show.seen.version
        loaded, changes, job = @open_show.change(->(before, after) { @edit_queue.follow(before, after, soon: wait) }, &)
        @on_change.call(loaded, wait ? RECORDER : 0) unless loaded.version == before
        { version: loaded.version, changes: changes.map(&:to_h), said: Settings::Telling.summary(loaded.show, changes), desk_problems: wait && job ? job.wait(DESK) : [] }
      end
    end
  end
end
