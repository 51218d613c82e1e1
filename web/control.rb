# frozen_string_literal: true

module Loomshuttle
  module Web
    # The open show and everything that goes on with it: edits go through the store, desk and recorder follow, and everybody
    # watching is told. Holds the newest version it has seen, so that capture and meters go on while the database is away; an application
    # that starts meanwhile takes the show that it kept in a file. Its threads:
    #   tells the state     to everybody who watches
    #   opens the show      until the database has told which one is open, and keeps each version of it in a file
    class Control
      # Seconds between two tellings of the state when something happens all the time, and when nothing does.
      OFTEN = 0.1
      SELDOM = 1.0
      # Whoever waits for the desk gets an answer within this (seconds), and for the recorder within that.
      DESK, RECORDER = 2.4, 1.5

      # No show has been opened yet, since the database has not answered since the start.
      class NotYet < StandardError
        def message = "The database has not answered yet, so no show is open. It is tried all the time."
      end

      attr_reader :shelf, :hub, :recorder, :desk, :shows, :library, :in_step, :listener, :ticks, :guard, :jobs, :deliveries, :looks, :outflow, :parts

      # @param shows [Store::Shows]  @param database [Sequel::Database]
      # @param home [String] folder of this instance  @param desk_port [Integer] OSC port of the desk
      # @param folders [Array<String>, nil] below which deliveries are looked at
      def initialize(shows:, database:, home:, desk_port:, folders: nil)
        @shows = shows
        @lock = Monitor.new # held while the open show is changed; the desk and the recorder are never waited for with it
        @touched = Runtime::Wakeup.new
        @opened = Runtime::Wakeup.new
        @hub = LiveHub.new
        @outflow = Outflow.new
        @parts = Parts.new(home)
        @space = FreeSpace.new(home)
        @listener = Listener.new(on_noise: ->(channel) { @hub.tell("noise", { channel: channel }) })
        @guard = CaptureGuard.new(-> { @capturing })
        reach_out(home, desk_port)
        keep_books(home, database, folders)
        first_show
      end

      def start
        @workers = { "tells the state" => method(:tell_states), "opens the show" => method(:keep_show) }.map { |name, turn| Runtime::Worker.start(name) { turn.call } }
        parts_at_work.each(&:start)
      end

      def stop
        @workers&.each(&:stop)
        parts_at_work.reverse_each(&:stop)
      end

      # Makes another show the one that is edited, captured and compared with the desk. Nothing is sent to the desk.
      # @raise [Invalid] when there is no such show
      def open_show(id)
        @guard.whole("opening another show") unless @derived.nil? || @derived.id == id
        @lock.synchronize do
          @shows.open(id) unless @derived.nil? && @shows.open_id == id
          @derived = derive(@shows.load(id))
        end
        changed_show
      end

      # Reads everything anew, after profiles or names have changed.
      def forget
        @lock.synchronize { @derived = derive(@shows.load(seen.id)) }
        changed_show
      end

      # @return [Derived] the newest version of the open show
      # @raise [Sequel::Error] while the database is away   @raise [NotYet]
      def current
        known = seen
        loaded = @shows.load(known.id, known: known.loaded)
        return known if loaded.equal?(known.loaded)

        @lock.synchronize { @derived = derive(loaded) if loaded.id == @derived.id && loaded.version > @derived.version }
        @derived
      end

      # @return [Derived] the newest version that has been seen; asks nobody
      # @raise [NotYet]
      def seen = @derived || raise(NotYet)

      # Applies an edit, lets desk and recorder follow, and tells everybody.
      # @param version [Integer, nil]  @param show [Integer, nil] id of the show that it is meant for
      # @param wait [Boolean] whether to come back only when desk and recorder have followed, or have had their time for it
      # @yieldparam show [Settings::Show] the newest, for edits that are computed from it
      # @yieldreturn [Settings::Edit]
      # @return [Hash] version, changes and, when it waited, desk problems
      def edit(version:, who:, show: nil, wait: false, &compute)
        done(wait) do |known|
          same_show(show)
          @shows.apply(known.id, version: version, who: who, known: known.loaded, check: @guard.method(:edit), &compute)
        end
      end

      # @param kind ["undo", "redo"]
      # @return as edit
      def revert(version:, who:, kind:, show: nil, wait: false)
        done(wait) do |known|
          same_show(show)
          @shows.revert(known.id, version: version, who: who, kind: kind, known: known.loaded, check: @guard.method(:edit))
        end
      end

      # Moves channels between stage and take. On the way back to the stage the desk comes first: it is set before the plan is, whatever
      # else hangs, and what is said is how the desk then is.
      # @param to ["stage", "take"]   @param channels [Array<Integer>, nil]
      # @return as edit, with what the desk did not take
      def flip(to:, channels:, version:, who:, show: nil)
        return edit(version: version, who: who, show: show, wait: true) { |newest| Steps::Flip.edit(newest, to: to, channels: channels) } unless to == "stage"

        same_show(show)
        wanted = seen.show.then { |now| Steps::Flip.edit(now, to: to, channels: channels).apply(now).first }
        problems = @follower.now { @sync.flip(wanted) }.wait(DESK)
        made = edit(version: version, who: who, show: show) { |newest| Steps::Flip.edit(newest, to: to, channels: channels) }
        made.merge(desk_problems: problems)
      rescue Sequel::Error
        raise if problems.nil?

        words = "The plan could not be kept, since the database does not answer#{'; the desk is on stage all the same' if problems.empty?}."
        { version: seen.version, changes: [], said: words, desk_problems: [*problems, words] }
      end

      # @return [Hash] labels of what undo and redo would do
      def undoable = @shows.undoable(seen.id)

      # @return [Hash] the state band's facts (schema LiveState)
      def state
        show = seen.show
        compare(show) unless @follower.pending? && @apart && !@sync.away(show)
        State.new(seen, guarded: @guard.closed?, apart: @apart, stranger: @sync.stranger(show), desk: @desk, status: @status, recorder: @recorder, free: @space.bytes,
                        troubles: @parts.troubles).to_h
      end

      # @return [Array<LineCheck::Ear::Line>] in patch order
      def roll = @listener.roll(seen.show.setup.alignment)

      # Starts a capture of what the plan has armed; one without a name is called like the show.
      # @param frames [Integer, nil]   @param back [Numeric] seconds before now that it begins
      def capture(name:, frames:, back:)
        @guard.close
        configure_recorder
        @recorder.call("capture.start", name: name.strip.empty? ? seen.show.about.fetch(:name, "Take") : name, frames: frames, back: back)
      end

      # The state has changed; everybody is told soon.
      def touch = @touched.wake

      private

      def parts_at_work = [@space, @hub, @outflow, @follower, @recorder_follower, @desk, @recorder, @shelf, @looks, @clearing]

      # What lives outside.
      def reach_out(home, desk_port)
        @desk = Desk::Link.new(desk_port, on_change: method(:touch), on_meters: method(:desk_meters))
        @recorder = RecorderLink.new(File.join(home, "recorder.sock"), on_up: method(:recorder_up), on_state: method(:recorder_state), on_status: method(:recorder_status),
                                                                       on_meters: method(:lane_meters), on_second: method(:lane_second))
        @sync = Desk::Sync.new(@desk)
        @follower = Follower.new(@sync, on_done: method(:followed))
        @recorder_follower = RecorderFollower.new(method(:configure_recorder))
      end

      # What is kept: in the database, and in folders that others fill.
      def keep_books(home, database, folders)
        @jobs = Jobs.new(home)
        @deliveries = Deliveries.new(home, @jobs, folders: folders)
        @looks = Looks.new(@deliveries)
        @clearing = Clearing.new(@jobs, @deliveries, @recorder)
        @ticks = Store::Ticks.new(database)
        @shelf = TakeShelf.new(File.join(home, "takes"), Store::Takes.new(database), on_change: -> { @hub.tell("takes", {}) })
        @library = Library.new(self, presets: Store::Presets.new(database))
        @in_step = Desk::InStep.new(self, link: @desk, sync: @sync, copies: Store::DeskCopies.new(database))
        @kept_show = KeptShow.new(home, @shows.profiles.shipped)
      end

      # From the database, or else as it was kept.
      def first_show
        open_from_database
      rescue Sequel::Error => e
        Runtime::Log.now.warn("The database does not answer: #{e.message.lines.first&.strip}")
        @derived = @kept_show.read&.then { |loaded| derive(loaded) }
      end

      def open_from_database
        @shows.open_id&.then { |id| open_show(id) }
        @from_database = !@derived.nil?
      end

      def keep_show
        open_from_database unless @from_database
        @derived&.then { |derived| @kept_show.keep(derived.loaded) } if @from_database
        @opened.wait(SELDOM)
      rescue Sequel::Error
        @opened.wait(SELDOM) # it is told by the band and by health
      end

      def compare(show)
        differences = @sync.differences(show)
        @apart = differences&.size
        @listener.follow(show, differences)
      end

      def derive(loaded) = Derived.new(loaded, free: -> { @space.bytes })

      def same_show(id)
        raise Invalid.new("Another show was opened meanwhile; nothing was changed.", where: "show") unless id.nil? || id == seen.id
      end

      # @yieldparam known [Derived]
      # @yieldreturn [Array(Store::Shows::Loaded, Array<Settings::Change>)]
      def done(wait)
        job = nil
        loaded, changes = @lock.synchronize do
          before = seen
          yield(before).tap do |after, made|
            @derived = derive(after) unless made.empty? && after.version == before.version
            job = @follower.follow(before.show, after.show, soon: wait) unless made.empty?
          end
        end
        tell_changes(loaded, wait) unless changes.empty?
        { version: loaded.version, changes: changes.map(&:to_h), said: Settings::Telling.summary(loaded.show, changes), desk_problems: wait && job ? job.wait(DESK) : [] }
      end

      def tell_changes(loaded, wait)
        @opened.wake
        @hub.tell("show", { id: loaded.id, version: loaded.version })
        @recorder_follower.follow(wait: wait && @recorder.up? ? RECORDER : 0)
      end

      # A desk that is away, or another one, is told by the state band.
      def followed(problems)
        touch
        return if problems.empty? || @derived.nil? || @sync.away(@derived.show)

        more = problems.size > 1 ? " (and #{problems.size - 1} more)" : ""
        @hub.tell("trouble", { text: "#{problems.first}#{more}" })
      end

      def changed_show
        @opened.wake
        @recorder_follower.follow
        @hub.tell("show", { id: @derived.id, version: @derived.version })
        touch
      end

      # @raise [RecorderLink::Away] it is told again when it comes back
      def configure_recorder
        show = @derived&.show or return
        tracks = show.tracks.values.select(&:used?).map do |track|
          { number: track.number, name: show.title_of(track), inputs: track.inputs, outputs: track.outputs, armed: track.armed }
        end
        @recorder.call("configure", tracks: tracks, buffer: show.setup.buffer, own_mix: show.setup.own_mix, bits: show.setup.bits,
                                    mirror: show.setup.mirror.empty? ? nil : show.setup.mirror, project: show.about.fetch(:name, ""))
      end

      # It has come, or something of it was missed.
      def recorder_up
        @recorder_follower.follow
        recorder_state(@recorder.call("status"))
      end

      # @param status [Hash, nil] nil when it is not heard any more; what it captured then counts as going on
      def recorder_state(status) = recorder_status(status).then { @shelf.look }

      def recorder_status(status)
        @status = status
        if status
          @capturing = status["capture"]
          @shelf.mirror = status["mirror_folder"]
        end
        touch
      end

      def tell_states
        @touched.wait(SELDOM)
        @hub.tell("state", state, keep: true) if @derived
        sleep(OFTEN / 2)
      end

      def desk_meters(peaks, rms)
        @listener.meters("desk", peaks, rms)
        @hub.tell("desk", { peak: peaks.map { |one| one.round(1) }, rms: rms.map { |one| one.round(1) } })
      end

      def lane_second(heard) = @listener.second(heard["hum"], heard["pairs"])

      def lane_meters(frame)
        @listener.meters("lanes", frame["peak"], frame["rms"])
        @hub.tell("lanes", frame)
      end
    end
  end
end
