# frozen_string_literal: true

require "monitor"
require "sequel"

module Loomshuttle
  module Web
    # The newest known version of the open show, so that capture and meters continue while the database is offline. If it is offline at the start,
    # the copy in a file is used. Its thread:
    #   opens the show      until the database has told which one is open, and keeps each version of it in a file
    class OpenShow
      # Seconds between two looks; and after a change, so that the screens of those who watch come first.
      PAUSE, SETTLE = 1.0, 1.5

      # @param shows [Store::Shows]   @param kept [KeptShow]
      # @param free [Proc] returns the free bytes for takes, or nil
      # @param on_change [Proc] called after a change that is not an edit, such as another show
      def initialize(shows, kept, free:, on_change:)
        @shows, @kept, @free, @on_change = shows, kept, free, on_change
        @lock = Monitor.new # held while it is changed; the desk and the recorder are never waited for with it
        @news = Runtime::Wakeup.new
      end

      def start
        @worker = Runtime::Worker.start("opens the show", priority: Runtime::Worker::PATIENT) { keep }
      end

      def stop = @worker&.stop

      # Loads the show from the database, else from the saved copy.
      def first
        open_from_database
      rescue Sequel::Error => e
        Runtime::Log.now.warn("The database does not answer: #{e.message.lines.first&.strip}")
        @derived = @kept.read&.then { |loaded| derive(loaded) }
      end

      # Makes another show the open one.
      # @raise [Invalid] if there is no such show
      def turn_to(id)
        @lock.synchronize do
          @shows.open(id) unless @derived.nil? && @shows.open_id == id
          @derived = derive(@shows.load(id))
        end
        changed
      end

      # Reads everything again, after profiles or names changed.
      def forget
        @lock.synchronize { @derived = derive(@shows.load(seen.id)) }
        changed
      end

      # Seconds for which a database that did not answer is not asked again, for screens that do without it.
      AWAY = 2

      # For screens that must work without the database.
      # @return [Derived] as current, else the newest known version
      # @raise [Away]
      def latest
        return seen if @away_until && Runtime::Clock.now < @away_until

        current.tap { @away_until = nil }
      rescue Sequel::DatabaseError, Sequel::PoolTimeout
        @away_until = Runtime::Clock.now + AWAY
        seen
      end

      # @return [Boolean] whether any show is known
      def known? = !@derived.nil?

      # @return [Derived] the newest known version, without asking the database
      # @raise [Away]
      def seen = @derived || raise(Away.new("The database has not answered yet, so no show is open. Retrying.", where: "database"))

      # @return [Derived] the newest version
      # @raise [Sequel::Error] if the database is away   @raise [Away]
      def current
        known = seen
        loaded = @shows.load(known.id, known: known.loaded)
        return known if loaded.equal?(known.loaded)

        @lock.synchronize { @derived = derive(loaded) if loaded.id == @derived.id && loaded.version > @derived.version }
        @derived
      end

      # The only way to change the open show.
      # @param follow [Proc] called with the show before and after, in the order of the changes, if there are any
      # @yieldparam known [Derived]
      # @yieldreturn [Array(Store::Shows::Loaded, Array<Settings::Change>)]
      # @return [Array(Store::Shows::Loaded, Array<Settings::Change>, Object)] show, changes and the result of `follow`
      def change(follow)
        @lock.synchronize do
          before = seen
          loaded, changes = yield(before)
          @derived = derive(loaded) unless changes.empty? && loaded.version == before.version
          [loaded, changes, changes.empty? ? nil : follow.call(before.show, loaded.show)]
        end.tap { @news.wake }
      rescue Store::Database::Unknown
        @doubtful = true
        @news.wake
        raise
      end

      private

      def open_from_database
        @shows.open_id&.then { |id| turn_to(id) }
        @from_database = known?
      end

      def keep
        open_from_database unless @from_database
        read_again if @doubtful
        @derived&.then { |derived| @kept.keep(derived.loaded) } if @from_database
        @news.wait(PAUSE) && @worker&.rest(SETTLE)
      rescue Sequel::Error
        @news.wait(PAUSE) # it is told by the band and by health
      end

      # Nobody knows whether the last change was saved.
      def read_again
        before = seen.version
        @lock.synchronize { @derived = derive(@shows.load(seen.id)) }
        @doubtful = false
        changed unless seen.version == before
      end

      def changed
        @news.wake
        @on_change.call
      end

      def derive(loaded) = Derived.new(loaded, free: @free, before: @derived)
    end
  end
end
