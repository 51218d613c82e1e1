# frozen_string_literal: true

require "fileutils"
require "forwardable"

module Loomshuttle
  module Recorder
    # A whole recorder without sockets or threads: its parts, what arrives at them, and how it is. What it is told goes to Captures, Plays
    # and the Shelf. The process and the tests' in-process card both drive this. The take under way has a lock of its own (Capturing),
    # what plays another one (Plays), and the engine one for what happens at each packet.
    class Unit
      extend Forwardable

      # @return [Shelf] of the takes that are over
      attr_reader :shelf
      attr_reader :engine, :recovered, :takes, :captures, :plays

      # @param sends [Array<Formats::Sdp::Stream>] what arrives from the card
      # @param returns [Array<Formats::Sdp::Stream>] what goes back to it
      # @param takes [String] folder of all takes
      # @param settings [String] file that stores the configuration
      # @param now [Proc] monotonic time in seconds   @param wall [Proc] the time of day
      # @param aside [Runtime::Aside, nil] takes unreadable files   @param cautious [Boolean] whether to leave unfinished takes alone
      # @param send [Proc] takes return stream index and RTP bytes
      def initialize(sends:, returns:, takes:, settings:, now:, wall: -> { Time.now }, aside: nil, cautious: false, &send)
        @takes = takes
        @engine = Engine.new(sends, now: now) { |batch| @spool.call(batch) }
        @playback = TakePlayback.new(@engine, returns: returns, &send)
        @spool = method(:handle)
        @config = Config.new(settings, aside)
        FileUtils.mkdir_p(takes)
        numbers = Numbers.new
        @capturing = Capturing.new(takes, rate: @engine.rate, lanes: @engine.lanes, numbers: numbers, wall: wall, on_change: method(:changed)) { @engine.position }
        @cautious = cautious
        @shelf = Shelf.new(takes, numbers: numbers, playing: -> { @playback.take }, on_change: method(:changed), mirror: method(:mirror))
        @recheck = Recheck.new(@shelf)
        @recovered = []
        recover(takes)
        @captures = CaptureCalls.new(@engine, @config, @capturing, @playback, on_change: method(:changed))
        @plays = TakePlaybackCalls.new(@engine, @config, @playback, @captures, shelf: @shelf, now: now, on_change: method(:changed))
      end

      # @param spool [Proc] takes batches instead of handling them where they arise, to hand them to `handle` elsewhere
      attr_writer :spool
      # @param on_meters [Proc] takes position, peaks and RMS in dBFS of all lanes, every 50 ms
      # @param on_state [Proc] called when the state has changed
      attr_writer :on_meters, :on_state
      # @param card_status [Proc] gives the card's state for people   @param dropped [Proc] gives frames that were let go since the disk was too slow
      attr_writer :card_status, :dropped

      # @param whole [Boolean] whether the card needs all of its streams, like a sound card
      def whole_card=(whole)
        @playback.whole = whole
      end

      # @param tell [Proc] called each second with the hum lines of all lanes and the pairs of like lanes (Listening)
      def on_second=(tell)
        @listening = Listening.new(@engine.rate, &tell)
      end

      def_delegators :@captures, :rest, :mark
      def_delegator :@captures, :start, :capture_start
      def_delegator :@captures, :stop, :capture_stop
      def_delegators :@plays, :play, :stop, :overdub, :trip, :fill, :wait=
      def_delegator :@plays, :measure, :measure_trip

      # @return [Hash] the whole state, for people
      def status
        { "clock" => @engine.clock?, "hz" => @engine.hz, "position" => @engine.position, "rate" => @engine.rate, "lanes" => @engine.lanes, "buffer" => @config["buffer"],
          "counts" => @engine.counts.transform_keys(&:to_s), "restarts" => @engine.timeline.restarts, "capture" => @capturing.status,
          "look_back" => @capturing.look_back.status, "take_playback" => @playback.status, "tracks" => @config["tracks"], "takes_folder" => File.expand_path(@takes),
          "mirror_folder" => mirror, "mirror_problem" => @second_copy&.problem, "mirror_note" => @second_copy&.note, "card" => @card_status&.call, "trip" => trip,
          "last_problem" => @capturing.problem,
          "recovered" => @recovered.map { |take| take.slice("id", "number", "name", "frames", "note") }, "recovering" => @recheck.status, "dropped" => @dropped&.call.to_i }
      end

      # @return [Boolean] whether audio is sent to the card
      def playing? = @playback.going?

      # @return [Hash] frames of the take being captured and of the one being played (nil if none), and paused lanes
      def progress = { "capture" => @capturing.frames, "take_playback" => @playback.position, "resting" => @capturing.resting_lanes }

      # @return [Hash] status, after Captures#configure
      def configure(...) = @captures.configure(...).then { status }

      # @return [Hash] status, after Captures#arm
      def arm(...) = @captures.arm(...).then { status }

      # @param takes [Integer, nil] bytes free on the disk of the takes   @param mirror [Integer, nil] on that of the second copies
      def tell_free(takes:, mirror: nil)
        @capturing.tell_free(:first, takes)
        @capturing.tell_free(:mirror, mirror)
      end

      # Closes unfinished takes in the folder of second copies, whose disk may be slow, and measures a stretch of a recovered take. Called
      # in the background, from one thread only.
      # @return [Boolean] whether more is left to do
      def look_after_recovered
        return @recheck.step if @mirror_recovered

        @mirror_recovered = true
        recover(mirror) if mirror && mirror != @takes
        true
      end

      # Checks whether second copies can be written; the disk may be slow to answer.
      def look_at_mirror
        @second_copy = mirror && SecondCopy.look(mirror, @takes)
      end

      # @return [String, nil] folder of second copies
      def mirror = @config["mirror"]

      # Changes a take's name, notes and markers; while it is being captured, only its markers.
      # @param take [Integer, String] number or id
      # @return [Hash] its manifest, or as Capturing#status
      def change_take(take:, **changes) = @captures.under_way?(take) ? @captures.change(**changes) : @shelf.change(take: take, **changes)

      # Mixes what just arrived to stereo, for somebody who listens elsewhere.
      # @param ways [Array<Hash>] as EarMix::WAY   @param from [Integer, nil] position to continue from
      # @return [Hash] as EarMix#read
      def ear_mix(ways:, from: nil) = EarMix.new(@engine.rate, ways).then { |mix| mix.read(@capturing.past(mix.reach), from) }

      # Writes and measures a batch. Called from one thread only, without a lock; one part's error does not stop the others.
      # @param batch [Batch]
      def handle(batch)
        alone("reading a batch") { batch.hold_samples }
        alone("capturing") { @capturing.handle(batch) }
        alone("telling meters") { @on_meters&.call(batch.position, *dbfs(batch)) }
        alone("listening") { @listening&.add(batch, sparing: @capturing.going?) }
        alone("measuring a trip") { @plays.listen(batch) }
        batch.forget_samples
        @plays.stop_at_end
      end

      # Ends everything, so that the process can stop.
      def close
        @capturing.stop("The recorder was stopped.")
        stop
      end

      private

      def changed = @on_state&.call

      def alone(what)
        yield
      rescue StandardError => e
        Runtime::Health.trouble(e, what)
      end

      def recover(root)
        found = alone("recovering takes in #{root}") { Recovery.run(root, cautious: @cautious) } or return
        @recheck.add(found)
        @recovered = (@recovered + found).uniq { |take| take["id"] }
        changed if found.any?
      end

      def dbfs(batch)
        peaks, squares = batch.levels.map(&:to_a)
        [peaks.map { |peak| Audio::Level.dbfs(peak) }, squares.map { |square| Audio::Level.rms_of(square) }]
      end
    end
  end
end
