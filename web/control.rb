# frozen_string_literal: true

module Loomshuttle
  module Web
    # What the API does: edits go through the store to the desk and the recorder, and everybody watching is told. Holds
    # the newest show it has seen, so that capture and meters go on while the database is away.
    class Control
      attr_reader :shelf, :hub, :recorder, :desk

      # @param shows [Store::Shows]  @param takes [Store::Takes]
      # @param home [String] folder of this instance  @param desk_port [Integer] OSC port of the desk
      def initialize(shows:, takes:, home:, desk_port:)
        @shows = shows
        @id = shows.first_id
        @loaded = shows.load(@id)
        @hub = LiveHub.new
        @space = FreeSpace.new(home)
        @desk = Desk::Link.new(desk_port, addresses: Desk::Words.plan(@loaded.show).keys, on_change: method(:tell_state), on_meters: method(:desk_meters))
        @sync = Desk::Sync.new(@desk)
        @recorder = RecorderLink.new(File.join(home, "recorder.sock"), on_up: method(:recorder_up), on_meters: method(:lane_meters),
                                                                       on_state: method(:recorder_state))
        @shelf = TakeShelf.new(File.join(home, "takes"), takes, on_change: -> { @hub.tell("takes", {}) })
        @lock = Monitor.new
      end

      def start
        @ticker = Thread.new { loop { tell_state && sleep(1) } }
        [@hub, @desk, @recorder, @shelf].each(&:start)
      end

      def stop
        @ticker&.kill
        [@shelf, @recorder, @desk, @hub].each(&:stop)
      end

      # @return [Store::Shows::Loaded] the newest version
      def current
        loaded = @shows.load(@id)
        @lock.synchronize { @loaded = loaded if loaded.version >= @loaded.version }
        loaded
      end

      # Applies an edit, sends what changed to desk and recorder, and tells everybody.
      # @param version [Integer, nil]
      # @yieldparam show [Patch::Show] the newest, for edits that are computed from it
      # @yieldreturn [Patch::Edit]
      # @return [Hash] version, changes and desk problems
      def edit(version:, who:)
        @lock.synchronize { done(*@shows.apply(@id, version: version, who: who, edit: yield(current.show))) }
      end

      # @param kind ["undo", "redo"]
      # @return as edit
      def revert(version:, who:, kind:)
        @lock.synchronize { done(*@shows.revert(@id, version: version, who: who, kind: kind)) }
      end

      # @return [Boolean] whether the database answers
      def database? = @shows.answers?

      # @return [Hash] labels of what undo and redo would do
      def undoable = @shows.undoable(@id)

      # @return [Array<Hash>] journal entries, oldest first
      def journal = @shows.entries(@id)

      # @return [Array<Desk::Sync::Difference>, nil]
      def differences = @sync.differences(@loaded.show)

      # Sets the desk to the plan wherever it differs.
      # @return [Array<String>] what could not be set
      def send_plan
        @lock.synchronize do
          show = current.show
          problems = @sync.send_plan(show, (@sync.differences(show) || []).map(&:path))
          tell_state
          @desk.up? ? problems : ["The desk does not answer."]
        end
      end

      # Takes what the desk says into the plan.
      # @return as edit
      def read_desk(version:, who:) = edit(version: version, who: who) { |show| @sync.read_edit(show) }

      # @return [Hash] the state band's facts (schema LiveState)
      def state = State.new(@loaded, sync: @sync, desk: @desk, status: @status, recorder: @recorder, free: @space.bytes).to_h

      # Starts a capture of what the plan has armed; one without a name is called like the show.
      # @param frames [Integer, nil]
      def capture(name:, frames:)
        configure_recorder
        @recorder.call("capture.start", name: name.strip.empty? ? @loaded.show.about.fetch(:name, "Take") : name, frames: frames)
      end

      private

      def done(loaded, changes)
        @loaded = loaded
        paths = changes.map(&:path)
        problems = paths.any? { |path| Desk::Words.address(path) } ? @sync.send_plan(loaded.show, paths) : []
        configure_recorder if paths.any? { |path| path.start_with?("track/", "setup/") }
        @hub.tell("show", { version: loaded.version }) unless changes.empty?
        tell_state
        { version: loaded.version, changes: changes.map(&:to_h), desk_problems: problems }
      end

      # The recorder may be away; it is configured again when it comes back.
      def configure_recorder
        show = @loaded.show
        tracks = show.tracks.values.select(&:used?).map do |track|
          { number: track.number, name: track.title, inputs: track.inputs, outputs: track.outputs, armed: track.armed }
        end
        @recorder.call("configure", tracks: tracks, buffer: show.setup.buffer)
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
        tell_state
      end

      def tell_state
        @hub.tell("state", state, keep: true)
        true
      end

      def desk_meters(peaks, rms) = @hub.tell("desk", { peak: peaks.map { |one| one.round(1) }, rms: rms.map { |one| one.round(1) } })
      def lane_meters(frame) = @hub.tell("lanes", frame)
    end
  end
end
