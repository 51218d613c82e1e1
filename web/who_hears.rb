# frozen_string_literal: true

module Loomshuttle
  module Web
    # Who hears what: the survey of the open show as the desk is mixed now, of a level sheet that was kept, or of what an edit would make.
    # A fader that moves makes a new survey of the last one. Its thread:
    #   surveys             tells viewers that somebody hears something else, soon after the desk or the plan has changed
    class WhoHears
      # Seconds between two tellings while faders move.
      OFTEN = 0.2
      SELDOM = 2.0

      # survey: Hearing::Survey; from: "desk", "sheet" or nil where nobody knows how the desk is mixed; sheet: id, name and at of that sheet
      Seen = Value.define(:survey, :from, :sheet, :version)

      # @param open_show [OpenShow]   @param desk [Desk::Link]   @param sync [Desk::Sync]   @param sheets [Store::LevelSheets]   @param hub [LiveHub]
      def initialize(open_show, desk:, sync:, sheets:, hub:)
        @open_show, @desk, @sync, @sheets, @hub = open_show, desk, sync, sheets, hub
        @news = Runtime::Wakeup.new
        @lock = Monitor.new # held while a survey is made; neither the desk nor the database is waited for with it
        @told = 0
      end

      def start
        @worker = Runtime::Worker.start("surveys") { |worker| tell_news(worker) }
      end

      def stop = @worker&.stop

      # The desk or the plan may be others than before.
      def touch = @news.wake

      # A level sheet was kept or deleted.
      def forget
        @newest = nil
        touch
      end

      # @return [Seen] of the open show, as the desk is mixed now, or as it was kept last
      def now
        derived = @open_show.seen
        from, sheet, values = levels(derived)
        @lock.synchronize { Seen.new(survey: survey(derived, values), from: from, sheet: sheet, version: derived.version) }
      end

      # @param id [Integer] of a level sheet
      # @return [Seen]
      # @raise [Invalid] when there is none
      def by_sheet(id)
        derived = @open_show.seen
        kept = @sheets.find(derived.id, id)
        Seen.new(survey: Hearing::Survey.of(derived.show, kept[:values], derived.context.graph), from: "sheet", sheet: kept.slice(:id, :name, :at), version: derived.version)
      end

      # @return [Array<Checks::Finding>] of the open show; none where nobody listens
      def findings
        seen = now
        @lock.synchronize do
          return @findings if @surveyed.equal?(seen.survey) && @findings

          @surveyed = seen.survey
          @findings = Checks.heard(seen.survey).freeze
        end
      rescue OpenShow::NotYet
        []
      end

      # What an edit would make louder or softer for whom, and what would be found then.
      # @param after [Derived]
      # @return [Array(Array<Hearing::Difference::Change>, Array<Checks::Finding>)]
      def after(after)
        before = now.survey
        return [[], []] if before.values.empty? || (before.listeners.empty? && after.show.listeners.empty?)

        later = Hearing::Survey.of(after.show, before.values, after.context.graph)
        [Hearing::Difference.between(before, later), Checks.heard(later)]
      end

      private

      # @return [Array(String, Hash, Hash)] where levels are from, which sheet, and the levels
      def levels(derived)
        show = derived.show
        return ["desk", nil, Desk::MixLevels.read(show.profile, @desk.mirror)] if @desk.up? && !@sync.stranger(show)

        kept = newest(derived)
        kept ? ["sheet", kept.slice(:id, :name, :at), kept[:values]] : [nil, nil, {}]
      end

      # With the desk away, what was kept last; asked for once, and again when one was kept.
      def newest(derived)
        key = [derived.id, derived.show.rig.desk]
        return @newest.last if @newest&.first == key

        @newest = [key, @sheets.newest(*key)]
        @newest.last
      rescue Sequel::Error
        nil
      end

      def survey(derived, values)
        same = @of.equal?(derived)
        @of = derived
        @survey = same ? @survey.turned(values) : Hearing::Survey.of(derived.show, values, derived.context.graph)
      end

      def tell_news(worker)
        @news.wait(SELDOM)
        return unless @open_show.known?

        seen = now
        return if @last.equal?(seen.survey)

        @last = seen.survey
        @hub.tell("heard", { number: @told += 1 })
        worker.rest(OFTEN)
      end
    end
  end
end
