# frozen_string_literal: true

require "forwardable"

module Loomshuttle
  module Web
    # Puts the parts of the web process together: the open show (OpenShow), changes of its plan (PlanChanges), what viewers are told (Watch), the
    # links to the other processes, and the stores. Routes ask it for the part they need.
    class Control
      extend Forwardable

      attr_reader :shelf, :hub, :recorder, :desk, :shows, :library, :in_step, :listener, :ticks, :guard, :jobs, :deliveries, :inspections, :stream_writer, :parts,
                  :who_hears, :slow_answers, :levels, :live_ears, :songs, :order, :list_columns, :folders, :editions

      # @param shows [Store::Shows]  @param database [Sequel::Database]
      # @param home [String] folder of this instance  @param desk_port [Integer] OSC port of the desk
      # @param folders [Array<String>, nil] below which deliveries may lie
      def initialize(shows:, database:, home:, desk_port:, folders: nil)
        @shows = shows
        @hub = LiveHub.new
        @stream_writer = StreamWriter.new
        @slow_answers = SlowAnswers.new
        @editions = Editions.new
        @parts = Parts.new(home)
        @space = FreeSpace.new(File.join(home, "takes"))
        @listener = Listener.new(on_noise: ->(channel) { @hub.tell("noise", { channel: channel }) })
        @open_show = OpenShow.new(shows, KeptShow.new(home, shows.profiles.shipped), free: -> { @space.bytes }, on_change: method(:changed_show))
        @watch = Watch.new(@open_show, hub: @hub, listener: @listener, parts: @parts, space: @space)
        @guard = CaptureGuard.new(-> { @watch.capturing })
        reach_out(home, desk_port)
        keep_books(home, database, folders)
        @order = PlayOrder.new(@open_show, @songs, hub: @hub, path: File.join(home, "player.sock"), on_change: method(:touch))
        @watch.of(desk: @desk, sync: @sync, edit_queue: @edit_queue, recorder: @recorder, guard: @guard, shelf: @shelf, who_hears: @who_hears)
        @open_show.first
      end

      # @return [Integer, nil] free bytes on the disk of the takes; nil if unknown
      def free_bytes = @space.bytes

      def start = parts_at_work.each(&:start)
      def stop = parts_at_work.reverse_each(&:stop)

      def_delegators :@open_show, :current, :latest, :seen, :forget
      def_delegators :@plan, :edit, :revert, :flip, :undoable
      def_delegators :@watch, :state, :touch
      def_delegators :@switch, :open_show, :settle_take, :on_take
      def_delegators :@song_edits, :change_song, :delete_song

      # @return [Array<LineCheck::Ear::Line>] in patch order
      def roll = @listener.roll(seen.show.setup.alignment)

      # @raise [Away] if the recorder is away; it gets the configuration when it returns
      def configure_recorder = @open_show.known? && @recorder.call("configure", **RecorderConfig.of(seen.show))

      # Captures the armed tracks of the plan; without a name, the take is named after the show.
      # @param frames [Integer, nil] length   @param back [Numeric] seconds of look-back to include
      def capture(name:, frames:, back:)
        @guard.close
        configure_recorder
        @recorder.call("capture.start", name: name.strip.empty? ? seen.show.about.fetch(:name, "Take") : name, frames: frames, back: back)
      end

      # Plugs the stand-in's cables as planned.
      # @raise [Invalid] if the desk is not a stand-in
      def plug_cables = @in_step.plug(current.show)

      private

      def parts_at_work
        [@watch, @who_hears, @open_show, @space, @hub, @stream_writer, @slow_answers, @edit_queue, @recorder_plan, @desk, @recorder, @shelf, @songs, @order, @inspections,
         @clearing]
      end

      # What lives outside.
      def reach_out(home, desk_port)
        @desk = Desk::Link.new(desk_port, on_change: method(:touched_desk), on_meters: @watch.method(:desk_meters))
        @recorder = RecorderLink.new(File.join(home, "recorder.sock"), on_up: method(:recorder_up), on_state: @watch.method(:recorder_state),
                                                                       on_status: @watch.method(:recorder_status), on_meters: @watch.method(:lane_meters),
                                                                       on_second: @watch.method(:lane_second))
        @sync = Desk::Sync.new(@desk)
        @edit_queue = Desk::EditQueue.new(@sync, on_done: @watch.method(:followed))
        @recorder_plan = PlanSender.new(method(:configure_recorder))
        @switch = ShowSwitch.new(self, @open_show, @sync)
        @plan = PlanChanges.new(@open_show, @shows, guard: @guard, edit_queue: @edit_queue, sync: @sync, on_change: method(:changed_plan))
      end

      # What is kept: in the database, and in folders that others fill.
      def keep_books(home, database, folders)
        @jobs = Jobs.new(home)
        @deliveries = Deliveries.new(home, @jobs, folders: @folders = AllowedFolders.new(folders))
        @inspections = Inspections.new(@deliveries)
        @deliveries.in_use = @inspections.method(:folders)
        @songs = SongLibrary.new(File.join(home, "songs"), on_change: method(:changed_songs))
        @song_edits = SongEdits.new(self, @songs, @shows)
        @clearing = Clearing.new(@jobs, @deliveries, @recorder, @songs)
        @ticks = Store::Ticks.new(database)
        sheets = Store::LevelSheets.new(database)
        @list_columns = Store::ListColumns.new(database)
        @who_hears = WhoHears.new(@open_show, desk: @desk, sync: @sync, sheets: sheets, hub: @hub, on_change: method(:touch), besides: @watch.method(:pace))
        @levels = LevelDesk.new(self, sheets: sheets, sync: @sync)
        @live_ears = LiveEars.new(@who_hears, @recorder)
        @shelf = TakeShelf.new(File.join(home, "takes"), Store::Takes.new(database), on_change: -> { @hub.tell("takes", {}) })
        @library = ShowArchive.new(self, presets: Store::Presets.new(database))
        @in_step = Desk::InStep.new(self, link: @desk, sync: @sync, copies: Store::DeskCopies.new(database))
      end

      # A fader that moves changes nothing in the band on its own.
      def touched_desk(address = nil)
        touch unless address && Desk::MixLevels.level?(address)
        @who_hears&.touch
      end

      # The player takes them as they are from now on.
      def changed_songs
        @order&.follow
        @hub.tell("songs", {})
      end

      def changed_show
        @recorder_plan.follow
        @order&.follow
        @who_hears&.touch
        @hub.tell("show", { id: seen.id, version: seen.version })
        touch
      end

      # @param loaded [Store::Shows::Loaded]   @param wait [Numeric] seconds that somebody waits for the recorder
      def changed_plan(loaded, wait)
        @hub.tell("show", { id: loaded.id, version: loaded.version })
        @who_hears.settle
        @order.follow
        @recorder_plan.follow(wait: @recorder.up? ? wait : 0)
      end

      # It has come, or something of it was missed.
      def recorder_up
        @recorder_plan.follow
        @watch.recorder_state(@recorder.call("status"))
      end
    end
  end
end
