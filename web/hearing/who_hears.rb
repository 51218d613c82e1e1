# frozen_string_literal: true

require "monitor"
require "sequel"

module Loomshuttle
  module Web
    # Keeps the survey of who hears what: with the current desk levels, with a saved snapshot, or as an edit would change it. A moved fader updates
    # the last survey. Its thread:
    #   surveys             tells viewers that somebody hears something else, soon after the desk or the plan has changed
    class WhoHears
      # Seconds between two tellings while faders move, and when nothing does; and after a change, so that the screens of those who made it come first.
      OFTEN, SELDOM, SETTLE = 0.2, 2.0, 0.1

      NONE = [].freeze
      private_constant :NONE

      # survey: Hearing::Survey, of a version of a show; from: "desk", "sheet" or nil where desk levels unknown; sheet: id, name and at of that sheet
      Seen = Value.define(:survey, :from, :sheet, :version, :show_id)

      # @return [Array<Checks::Finding>] of the open show as they were found last, without what would mend them; nobody waits for newer ones
      attr_reader :found

      # @param open_show [OpenShow]   @param desk [Desk::Link]   @param sync [Desk::Sync]   @param sheets [Store::LevelSheets]   @param hub [LiveHub]
      # @param on_change [Proc] called when findings may have changed
      # @param besides [Proc] called with a show, returns findings measured elsewhere
      def initialize(open_show, desk:, sync:, sheets:, hub:, on_change:, besides: ->(_) { NONE })
        @open_show, @desk, @sync, @sheets, @hub, @on_change, @besides = open_show, desk, sync, sheets, hub, on_change, besides
        @found = @by_ear = NONE
        @news = Runtime::Wakeup.new
        @lock = Monitor.new # held while a survey is made; neither the desk nor the database is waited for with it
        @told = 0
      end

      def start
        @worker = Runtime::Worker.start("surveys", priority: Runtime::Worker::PATIENT) { |worker| tell_news(worker) }
      end

      def stop = @worker&.stop

      # Notes that the desk may have changed.
      def touch = @news.wake

      # Notes that the plan changed. Lets the editing browser repaint before the others are notified.
      def settle
        @settle = true
        touch
      end

      # Notes that a level sheet was saved or deleted.
      def forget
        @newest = nil
        touch
      end

      # @return [Seen] the open show with the desk's present levels, or with the last saved ones
      def now
        derived = @open_show.seen
        from, sheet, values = levels(derived)
        @lock.synchronize { Seen.new(survey: survey(derived, values), from: from, sheet: sheet, version: derived.version, show_id: derived.id) }
      end

      # @param id [Integer] of a level sheet
      # @return [Seen]
      # @raise [Invalid] if there is none
      def by_sheet(id)
        derived = @open_show.seen
        kept = @sheets.find(derived.id, id)
        Seen.new(survey: Hearing::Survey.of(derived.show, kept[:values], derived.context.graph), from: "sheet", sheet: kept.slice(:id, :name, :at), version: derived.version,
                 show_id: derived.id)
      end

      # @return [Array<Checks::Finding>] of the open show with the desk's present levels, with fixes; without findings by level if the levels are unknown
      def findings
        show = @open_show.seen.show
        found_in(show.listeners.empty? ? nil : now.survey) + @besides.call(show)
      end

      # What an edit would change for each listener, and the findings about levels before and after it.
      # @param later [Derived]
      # @return [Array(Array<Hearing::Difference::Change>, Array<Checks::Finding>, Array<Checks::Finding>)]
      def after(later)
        before = now.survey unless later.show.listeners.empty?
        return [NONE, NONE, NONE] if before.nil? || before.values.empty?

        survey = Hearing::Survey.of(later.show, before.values, later.context.graph)
        [Hearing::Difference.between(before, survey), found_in(before), Checks.heard(survey)]
      end

      private

      # @param survey [Hearing::Survey, nil] of the open show
      def found_in(survey)
        return NONE unless survey

        @lock.synchronize do
          @findings = Checks.heard(survey).freeze unless @fixed.equal?(survey)
          @fixed = survey
          @findings
        end
      end

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

      # What mends a wish takes longer to find than that it is broken, and is looked for when somebody asks.
      def look
        show = @open_show.seen.show
        listen(show)
        @found = (@by_ear + @besides.call(show)).freeze
      end

      def listen(show)
        return @by_ear = NONE if show.listeners.empty?

        survey = now.survey
        @by_ear = Checks.heard(survey, fixes: false).freeze unless @looked.equal?(survey)
        @looked = survey
      end

      def survey(derived, values)
        made = @of.equal?(derived) ? @survey.turned(values) : Hearing::Survey.of(derived.show, values, derived.context.graph)
        @of, @survey = derived, made # together, and only what could be computed
        made
      end

      def tell_news(worker)
        @news.wait(SELDOM)
        worker.rest(SETTLE) if @settle
        @settle = false
        return unless @open_show.known?

        before = @found
        look
        others = @found.map(&:id) != before.map(&:id)
        @on_change.call if others
        return if @last.equal?(@survey) && !others

        @last = @survey
        @hub.tell("heard", { number: @told += 1 })
        worker.rest(OFTEN)
      end
    end
  end
end
