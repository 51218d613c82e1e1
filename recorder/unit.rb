# frozen_string_literal: true

require "fileutils"
require "monitor"

module Loomshuttle
  module Recorder
    # A whole recorder without sockets or threads: what it is told (configure, arm, capture, play) and what arrives. The
    # process and the tests' in-process card both drive this. The take under way has a lock of its own (Capturing), and the
    # engine one for what happens at each packet.
    class Unit
      # Without arriving samples for this long (seconds) there is no clock.
      CLOCK_LOST = 0.5
      # A loop is no shorter (seconds): each round costs a turn of its own.
      SHORTEST_LOOP = 0.1

      # @return [Shelf] of the takes that are over
      attr_reader :shelf
      attr_reader :engine, :recovered, :takes

      # @param sends [Array<Formats::Sdp::Stream>] what arrives from the card
      # @param returns [Array<Formats::Sdp::Stream>] what goes back to it
      # @param takes [String] folder of all takes
      # @param settings [String] file that keeps the configuration over a restart
      # @param now [Proc] seconds that only grow   @param wall [Proc] the time of day
      # @param aside [Runtime::Aside, nil] for what cannot be read   @param cautious [Boolean] whether no unfinished take is mended
      # @param send [Proc] takes return stream index and RTP bytes
      def initialize(sends:, returns:, takes:, settings:, now:, wall: -> { Time.now }, aside: nil, cautious: false, &send)
        @sends, @returns, @takes, @now = sends, returns, takes, now
        @engine = Engine.new(sends, now: now) { |batch| @spool.call(batch) }
        @playback = Playback.new(@engine, returns: returns, &send)
        @spool = method(:handle)
        @config = Config.new(settings, aside)
        @transport = Monitor.new # held while playback is changed, never while a batch is waited for
        @measurement = Trip.new(@playback, transport: @transport, returns: return_lanes, rate: rate, now: now)
        FileUtils.mkdir_p(takes)
        numbers = Numbers.new
        @capturing = Capturing.new(takes, rate: rate, lanes: @engine.lanes, numbers: numbers, wall: wall, on_change: method(:changed)) { @engine.position }
        @recovered = recover(cautious)
        @shelf = Shelf.new(takes, numbers: numbers, playing: -> { @playback.take }, on_change: method(:changed), mirror: method(:mirror))
      end

      # @param spool [Proc] takes batches instead of handling them where they arise, to hand them to `handle` elsewhere
      attr_writer :spool
      # @param on_meters [Proc] takes position, peaks and RMS in dBFS of all lanes, every 50 ms
      # @param on_second [Proc] takes what each second held: hum lines of all lanes, and pairs that are alike (Listening)
      # @param on_state [Proc] called when the state has changed
      attr_writer :on_meters, :on_state

      def on_second=(tell)
        @listening = Listening.new(rate, &tell)
      end

      # @return [Hash] everything a person wants to know at a glance
      def status
        { "clock" => clock?, "position" => @engine.position, "rate" => rate, "lanes" => @engine.lanes, "buffer" => @config["buffer"],
          "counts" => @engine.counts.transform_keys(&:to_s), "restarts" => @engine.timeline.restarts, "capture" => @capturing.status,
          "look_back" => @capturing.look_back.status, "playback" => @playback.status, "tracks" => @config["tracks"], "takes_folder" => File.expand_path(@takes),
          "mirror_folder" => mirror,
          "card" => @card_status&.call, "trip" => trip, "last_problem" => @capturing.problem, "recovered" => recovered_words, "dropped" => @dropped&.call.to_i }
      end

      # @return [Hash] frames of the take under way and of the one that plays, nil where there is none, and lanes that rest
      def progress = { "capture" => @capturing.frames, "playback" => @playback.position, "resting" => @capturing.resting_lanes }

      # @param tracks [Array<Hash>] number, name, inputs, outputs, armed
      # @param others [Hash] what is not given stays: buffer (samples each way), own_mix (return lanes of the recorder's own mix, or
      #   none), bits (24 or 32, float), mirror (folder of a second copy, or nil), project (the show)
      def configure(tracks:, **others)
        @config.change(tracks, others.transform_keys(&:to_s))
        changed
        status
      end

      # @param numbers [Array<Integer>, nil] tracks; nil: all that have an input
      def arm(armed:, numbers: nil)
        raise Invalid.new("armed must be true or false", where: "armed") unless [true, false].include?(armed)

        unknown = Array(numbers) - tracks.map(&:number)
        raise Invalid.new("there is no track #{unknown.join(', ')}", where: "tracks") unless unknown.empty?

        configure(tracks: @config["tracks"].map { |one| numbers.nil? || numbers.include?(one["number"]) ? one.merge("armed" => armed) : one })
      end

      # @param name [String] of the take
      # @param frames [Integer, nil] length after which it stops by itself
      # @param back [Numeric] seconds before now that it begins, as far as the look-back goes
      # @return [Hash] as Capturing#status
      def capture_start(name: "", frames: nil, back: 0)
        check_capture(name, frames, back)
        raise Invalid.new("No track is armed; arm at least one.", where: "tracks") if wanted_tracks.empty?

        @capturing.start(wanted_tracks, name: name.strip.empty? ? "Take" : name, limit: frames, back: back, bits: @config["bits"], mirror: @config["mirror"],
                                        project: @config["project"])
        changed
        @capturing.status
      end

      # @return [Hash] the take's manifest
      def capture_stop
        done = @capturing.stop
        raise Invalid.new("Nothing is being captured.", where: "capture") unless done

        @playback.stop if done["over"]
        changed
        done
      end

      # @param tracks [Array<Integer>] numbers   @param resting [Boolean]
      def rest(tracks:, resting:) = @capturing.rest(tracks, resting == true).tap { changed }

      # @param kind ["point", "begin", "end"] a marker, or where a section begins or ends
      # @return [Hash] the marker
      def mark(name: nil, kind: "point")
        raise Invalid.new("kind is point, begin or end", where: "kind") unless %w[point begin end].include?(kind)

        @capturing.mark(name, kind).tap { changed }
      end

      # @param takes [Integer, nil] bytes free on the disk of the takes   @param mirror [Integer, nil] on that of the second copies
      def tell_free(takes:, mirror: nil)
        @capturing.tell_free(:first, takes)
        @capturing.tell_free(:mirror, mirror)
      end

      # @return [String, nil] folder of second copies
      def mirror = @config["mirror"]

      # Words about a take, and its markers; of the one under way its markers only.
      # @param take [Integer, String] number or id
      # @return [Hash] its manifest, or as Capturing#status
      def change_take(take:, **changes)
        current = @capturing.status
        return @shelf.change(take: take, **changes) unless current&.values_at("id", "number")&.include?(take)

        @capturing.markers = TakeMarkers.parse(changes.fetch(:markers) { raise Invalid.new("Only markers can be changed while it is captured.", where: "take") })
        changed
        @capturing.status
      end

      # @param take [Integer, String] number or id
      # @param from [Integer] frame   @param to [Integer, nil]
      # @raise [Invalid]
      def play(take:, from: 0, to: nil, loop: false)
        need_clock("there is no clock to play by")
        folder, manifest = playable(take)
        check_loop(manifest, from, to || manifest["frames"]) if loop
        @transport.synchronize do
          reader = TakeReader.new(folder, manifest, outputs: tracks.to_h { |track| [track.number, track.outputs] },
                                                    lanes: return_lanes, own_mix: @config["own_mix"], from: from, to: to, loop: loop)
          @playback.start(reader, manifest, buffer: @config["buffer"])
        end
        changed
        @playback.status
      end

      # Captures some tracks while the others of a take play, on one time line with it: what the desk sends is counted from when
      # it could hear the take, so that what was played along stands where it was played. Where it is refused, nothing plays.
      # @param take [Integer, String] number or id   @param tracks [Array<Integer>] numbers to capture; they are not played
      # @param from [Integer] frame of the take
      # @return [Hash] as Capturing#status
      # @raise [Invalid]
      def overdub(take:, tracks:, name: "", from: 0)
        check_capture(name, nil, 0)
        wanted = self.tracks.select { |track| tracks.include?(track.number) && within_card?(track) }
        raise Invalid.new("Choose at least one track with an input.", where: "tracks") if wanted.empty?

        folder, manifest = playable(take)
        played = self.tracks.reject { |track| tracks.include?(track.number) }.to_h { |track| [track.number, track.outputs] }
        @transport.synchronize { over(manifest, wanted, TakeReader.new(folder, manifest, outputs: played, lanes: return_lanes, from: from), name) }
        changed
        @capturing.status
      end

      # @return [Integer] samples from sending to coming back: as measured with this buffer, or else the buffer
      def trip = @config.trip

      # Measures the way out by a return and back by a send, and keeps it for overdubs.
      # @param output [Integer] return   @param input [Integer] send
      # @return [Hash] frames, and buffer that it was measured with
      # @raise [Invalid] when nothing comes back, or there is no such lane, or another one is under way
      def measure_trip(output:, input:)
        need_clock("nothing can be measured")
        raise Invalid.new("The card has returns 1 to #{return_lanes}, not #{output}.", where: "output") unless output.between?(1, return_lanes)
        raise Invalid.new("The card has sends 1 to #{@engine.lanes}, not #{input}.", where: "input") unless input.between?(1, @engine.lanes)

        frames = @measurement.measure(output, input, @config["buffer"])
        unless frames
          raise Invalid.new("Nothing came back on card send #{input} of what left on return #{output}: put its channel on take and send it at channel in.",
                            where: "trip")
        end

        @config.keep_trip(frames)
        { "frames" => frames, "buffer" => @config["buffer"] }
      ensure
        changed
      end

      # @param card_status [Proc] gives the card's state for people
      attr_writer :card_status

      # @param wait [Proc] lets time pass while a measurement listens
      def wait=(wait)
        @measurement.wait = wait
      end

      # @param dropped [Proc] gives frames that were let go since the disk was too slow
      attr_writer :dropped

      # Stops playback, if there is any.
      def stop
        changed if @transport.synchronize { @playback.stop }
        @playback.status
      end

      # Takes a batch: writes, measures. Called from one thread only, without any lock. What fails here fails alone.
      # @param batch [Batch]
      def handle(batch)
        alone("reading a batch") { batch.hold_samples }
        alone("capturing") { @capturing.handle(batch) }
        alone("telling meters") { @on_meters&.call(batch.position, *dbfs(batch)) }
        alone("listening") { @listening&.add(batch) }
        alone("measuring a trip") { @measurement.add(batch) }
        batch.forget_samples
        stop_at_end
      end

      # Reads ahead for playback.
      # @return [Boolean] whether there was something to do
      def fill = @playback.fill

      # Ends everything under way, for the process to stop.
      def close
        @capturing.stop("The recorder was stopped.")
        stop
      end

      private

      def rate = @sends.first.rate
      def return_lanes = @returns.sum(&:lanes)
      def tracks = @config.tracks
      def clock? = !@engine.heard_at.nil? && @now.call - @engine.heard_at < CLOCK_LOST
      def changed = @on_state&.call

      def alone(what)
        yield
      rescue StandardError => e
        Runtime::Health.trouble(e, what)
      end

      # Of the takes and their second copies.
      def recover(cautious)
        [@takes, mirror].compact.uniq.flat_map { |root| alone("mending takes in #{root}") { Recovery.run(root, cautious: cautious) } || [] }.uniq { |take| take["id"] }
      end

      # Who changes playback meanwhile looks at its end himself.
      def stop_at_end
        return unless @playback.over? && @transport.try_enter

        begin
          stop
        ensure
          @transport.exit
        end
      end

      def within_card?(track) = !track.inputs.empty? && track.inputs.all? { |lane| lane <= @engine.lanes }
      def wanted_tracks = tracks.select { |track| track.captured? && within_card?(track) }

      def need_clock(why)
        raise Invalid.new("No samples arrive from the desk, so #{why}.", where: "clock") unless clock?
      end

      # @return [Array(String, Hash)] folder and manifest of a take that fits the card's rate
      def playable(take)
        folder, manifest = @shelf.find(take)
        return [folder, manifest] if manifest["rate"] == rate

        raise Invalid.new("Take #{manifest['number']} was captured at #{manifest['rate'] / 1000.0} kHz, and the card runs at #{rate / 1000.0} kHz.", where: "take")
      end

      def check_loop(manifest, from, to)
        return if to - from >= manifest["rate"] * SHORTEST_LOOP

        raise Invalid.new("A loop lasts #{SHORTEST_LOOP} s at least; choose a longer part.", where: "to")
      end

      def over(manifest, wanted, reader, name)
        player, trip = nil, self.trip
        started = -> { player&.started && (player.started + trip) }
        about = { "take" => manifest["id"], "number" => manifest["number"], "from" => reader.from, "trip" => trip }
        options = { bits: @config["bits"], mirror: @config["mirror"], project: @config["project"] }
        @capturing.start(wanted, name: name.strip.empty? ? "Over #{manifest['name']}" : name, at: started, over: about, **options) do
          player = @playback.start(reader, manifest, buffer: @config["buffer"])
        end
      rescue StandardError
        player ? @playback.stop : reader.close
        raise
      end

      def check_capture(name, frames, back)
        Text.keep(name, "The name", most: 80, lines: false)
        raise Invalid.new("frames is a whole number above 0.", where: "frames") unless frames.nil? || (frames.is_a?(Integer) && frames.positive?)
        raise Invalid.new("back is from 0 to #{LookBack::SECONDS} seconds.", where: "back") unless back.is_a?(Numeric) && back.between?(0, LookBack::SECONDS)

        need_clock("nothing can be captured")
      end

      def recovered_words = @recovered.map { |take| take.slice("id", "number", "name", "frames", "note") }

      def dbfs(batch)
        peaks, squares = batch.levels
        [peaks.map { |peak| Audio::Level.dbfs(peak) }, squares.map { |square| Audio::Level.rms_of(square) }]
      end
    end
  end
end
