# frozen_string_literal: true

module Loomshuttle
  module Web
    # The open show and everything that goes on with it: edits go through the store, desk and recorder follow, and everybody
    # watching is told. Holds the newest version it has seen, so that capture and meters go on while the database is away.
    class Control
      # Seconds between two tellings of the state when something happens all the time, and when nothing does.
      OFTEN = 0.1
      SELDOM = 1.0

      attr_reader :shelf, :hub, :recorder, :desk, :shows, :library, :in_step, :listener, :ticks, :guard, :jobs, :deliveries

      # @param shows [Store::Shows]  @param database [Sequel::Database]
      # @param home [String] folder of this instance  @param desk_port [Integer] OSC port of the desk
      def initialize(shows:, database:, home:, desk_port:)
        @shows = shows
        @lock = Monitor.new
        @hub = LiveHub.new
        @space = FreeSpace.new(home)
        @listener = Listener.new(on_noise: ->(channel) { @hub.tell("noise", { channel: channel }) })
        @guard = CaptureGuard.new(-> { @status && @status["capture"] })
        reach_out(home, desk_port)
        keep_books(home, database)
        open_show(shows.open_id)
      end

      def start
        @teller = Thread.new { loop { tell_states } }
        [@hub, @follower, @desk, @recorder, @shelf].each(&:start)
      end

      def stop
        @teller&.kill
        [@shelf, @recorder, @desk, @follower, @hub].each(&:stop)
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
        @lock.synchronize { @derived = derive(@shows.load(@derived.id)) }
        changed_show
      end

      # @return [Derived] the newest version of the open show
      # @raise [Sequel::Error] while the database is away
      def current
        known = @derived
        loaded = @shows.load(known.id, known: known.loaded)
        return known if loaded.equal?(known.loaded)

        @lock.synchronize { @derived = derive(loaded) if loaded.id == @derived.id && loaded.version > @derived.version }
        @derived
      end

      # @return [Derived] the newest version that has been seen; asks nobody
      def seen = @derived

      # Applies an edit, lets desk and recorder follow, and tells everybody.
      # @param version [Integer, nil]  @param show [Integer, nil] id of the show that it is meant for
      # @param wait [Boolean] whether to come back only when desk and recorder have followed
      # @yieldparam show [Patch::Show] the newest, for edits that are computed from it
      # @yieldreturn [Patch::Edit]
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

      # @return [Hash] labels of what undo and redo would do
      def undoable = @shows.undoable(@derived.id)

      # @return [Hash] the state band's facts (schema LiveState)
      def state
        show = @derived.show
        compare(show) unless @follower.pending? && @apart && !@sync.away(show)
        State.new(@derived, guarded: @guard.closed?, apart: @apart, stranger: @sync.stranger(show), desk: @desk, status: @status, recorder: @recorder, free: @space.bytes).to_h
      end

      # @return [Array<LineCheck::Ear::Line>] in patch order
      def roll = @listener.roll(@derived.show.setup.alignment)

      # Starts a capture of what the plan has armed; one without a name is called like the show.
      # @param frames [Integer, nil]   @param back [Numeric] seconds before now that it begins
      def capture(name:, frames:, back:)
        @guard.close
        configure_recorder
        @recorder.call("capture.start", name: name.strip.empty? ? @derived.show.about.fetch(:name, "Take") : name, frames: frames, back: back)
      end

      # The state has changed; everybody is told soon.
      def touch = @touched = true

      private

      # What lives outside.
      def reach_out(home, desk_port)
        @desk = Desk::Link.new(desk_port, on_change: method(:touch), on_meters: method(:desk_meters))
        @recorder = RecorderLink.new(File.join(home, "recorder.sock"), on_up: method(:recorder_up), on_meters: method(:lane_meters),
                                                                       on_second: method(:lane_second), on_state: method(:recorder_state),
                                                                       on_status: method(:recorder_status))
        @sync = Desk::Sync.new(@desk)
        @follower = Follower.new(@sync, recorder: method(:configure_recorder), on_done: method(:followed))
      end

      # What is kept: in the database, and in folders that others fill.
      def keep_books(home, database)
        @jobs = Jobs.new(home)
        @deliveries = Deliveries.new(home, @jobs)
        @ticks = Store::Ticks.new(database)
        @shelf = TakeShelf.new(File.join(home, "takes"), Store::Takes.new(database), on_change: -> { @hub.tell("takes", {}) })
        @library = Library.new(self, presets: Store::Presets.new(database))
        @in_step = Desk::InStep.new(self, link: @desk, sync: @sync, copies: Store::DeskCopies.new(database))
      end

      def compare(show)
        differences = @sync.differences(show)
        @apart = differences&.size
        @listener.follow(show, differences)
      end

      def derive(loaded) = Derived.new(loaded, free: -> { @space.bytes })

      def same_show(id)
        raise Invalid.new("Another show was opened meanwhile; nothing was changed.", where: "show") unless id.nil? || id == @derived.id
      end

      # @yieldparam known [Derived]
      # @yieldreturn [Array(Store::Shows::Loaded, Array<Patch::Change>)]
      def done(wait)
        job = nil
        loaded, changes = @lock.synchronize do
          before = @derived
          yield(before).tap do |after, made|
            @derived = derive(after) unless made.empty? && after.version == before.version
            job = @follower.follow(before.show, after.show, soon: wait) unless made.empty?
          end
        end
        @hub.tell("show", { id: loaded.id, version: loaded.version }) unless changes.empty?
        { version: loaded.version, changes: changes.map(&:to_h), desk_problems: wait && job ? job.wait : [] }
      end

      # A desk that is away, or another one, is told by the state band.
      def followed(problems)
        touch
        return if @sync.away(@derived.show)

        problems.first(1).each { |text| @hub.tell("trouble", { text: problems.size > 1 ? "#{text} (and #{problems.size - 1} more)" : text }) }
      end

      def changed_show
        configure_recorder
        @hub.tell("show", { id: @derived.id, version: @derived.version })
        touch
      end

      # The recorder may be away; it is configured again when it comes back.
      def configure_recorder(show = @derived.show)
        tracks = show.tracks.values.select(&:used?).map do |track|
          { number: track.number, name: show.title_of(track), inputs: track.inputs, outputs: track.outputs, armed: track.armed }
        end
        @recorder.call("configure", tracks: tracks, buffer: show.setup.buffer, own_mix: show.setup.own_mix, bits: show.setup.bits,
                                    mirror: show.setup.mirror.empty? ? nil : show.setup.mirror, project: show.about.fetch(:name, ""))
      rescue RecorderLink::Away
        nil
      end

      def recorder_up
        configure_recorder
        recorder_state(@recorder.call("status"))
      end

      def recorder_state(status)
        @status = status
        @shelf.look
        touch
      end

      def recorder_status(status)
        @status = status
        touch
      end

      def tell_states
        waited = 0.0
        until @touched || waited >= SELDOM
          sleep(OFTEN / 2)
          waited += OFTEN / 2
        end
        @touched = false
        take_over
        @hub.tell("state", state, keep: true)
        sleep(OFTEN / 2)
      rescue Sequel::Error => e
        warn e.message
      end

      # Takes that were made of delivered files become the recorder's.
      def take_over
        @jobs.ready.each { |job| @recorder.call("take.adopt", folder: job["result"]) } if @recorder.up?
      rescue RecorderLink::Away, Invalid => e
        warn e.message
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
