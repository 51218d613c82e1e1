# frozen_string_literal: true

require "fileutils"
require "json"

module Loomshuttle
  module Recorder
    # A whole recorder without sockets or threads: what it is told (configure, arm, capture, play) and what arrives. The
    # process and the tests' in-process card both drive this. The take under way has a lock of its own (Capturing), and the
    # engine one for what happens at each packet.
    class Unit
      # Without arriving samples for this long (seconds) there is no clock.
      CLOCK_LOST = 0.5
      DEFAULTS = { "tracks" => [], "buffer" => 1024, "own_mix" => [], "bits" => 24, "mirror" => nil, "project" => "" }.freeze

      # @return [Shelf] of the takes that are over
      attr_reader :shelf
      attr_reader :engine, :recovered, :takes

      # @param sends [Array<Formats::Sdp::Stream>] what arrives from the card
      # @param returns [Array<Formats::Sdp::Stream>] what goes back to it
      # @param takes [String] folder of all takes
      # @param settings [String] file that keeps the configuration over a restart
      # @param now [Proc] seconds that only grow   @param wall [Proc] the time of day
      # @param send [Proc] takes return stream index and RTP bytes
      def initialize(sends:, returns:, takes:, settings:, now:, wall: -> { Time.now }, &send)
        @sends, @returns, @takes, @settings_file, @now = sends, returns, takes, settings, now
        @engine = Engine.new(sends) { |batch| arrived(batch) }
        @playback = Playback.new(@engine, returns: returns, &send)
        @spool = method(:handle)
        @config = load_config
        FileUtils.mkdir_p(takes)
        @capturing = Capturing.new(takes, rate: rate, lanes: @engine.lanes, wall: wall, on_change: method(:changed)) { @engine.position }
        @recovered = Recovery.run(takes)
        @shelf = Shelf.new(takes, playing: -> { @playback.take }, on_change: method(:changed))
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
          "card" => @card_status&.call, "trip" => trip, "last_problem" => @capturing.problem, "recovered" => recovered_words }
      end

      # @return [Hash] frames of the take under way and of the one that plays, nil where there is none, and lanes that rest
      def progress = { "capture" => @capturing.frames, "playback" => @playback.position, "resting" => @capturing.resting_lanes }

      # @param tracks [Array<Hash>] number, name, inputs, outputs, armed
      # @param others [Hash] what is not given stays: buffer (samples each way), own_mix (return lanes of the recorder's own mix, or
      #   none), bits (24 or 32, float), mirror (folder of a second copy, or nil), project (the show)
      def configure(tracks:, **others)
        raise Invalid.new("tracks must be a list", where: "tracks") unless tracks.is_a?(Array)

        given = @config.merge(others.transform_keys(&:to_s))
        check_config(**given.transform_keys(&:to_sym).slice(:buffer, :own_mix, :bits, :mirror))
        @config = given.merge("tracks" => tracks.map { |track| Track.parse(track).to_h.transform_keys(&:to_s) })
        save_config
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
      def play(take:, from: 0, to: nil, loop: false)
        raise Invalid.new("No samples arrive from the desk, so there is no clock to play by.", where: "clock") unless clock?

        folder, manifest = @shelf.find(take)
        reader = TakeReader.new(folder, manifest, outputs: tracks.to_h { |track| [track.number, track.outputs] },
                                                  lanes: @returns.sum(&:lanes), own_mix: @config["own_mix"], from: from, to: to, loop: loop)
        @playback.start(reader, manifest, buffer: @config["buffer"])
        changed
        @playback.status
      end

      # Captures some tracks while the others of a take play, on one time line with it: what the desk sends is counted from when
      # it could hear the take, so that what was played along stands where it was played.
      # @param take [Integer, String] number or id   @param tracks [Array<Integer>] numbers to capture; they are not played
      # @param from [Integer] frame of the take
      # @return [Hash] as Capturing#status
      def overdub(take:, tracks:, name: "", from: 0)
        check_capture(name, nil, 0)
        wanted = self.tracks.select { |track| tracks.include?(track.number) && !track.inputs.empty? }
        raise Invalid.new("Choose at least one track with an input.", where: "tracks") if wanted.empty?

        folder, manifest = @shelf.find(take)
        reader = TakeReader.new(folder, manifest, outputs: self.tracks.reject { |track| tracks.include?(track.number) }.to_h { |track| [track.number, track.outputs] },
                                                  lanes: @returns.sum(&:lanes), from: from)
        player = @playback.start(reader, manifest, buffer: @config["buffer"])
        trip = self.trip
        over = { "take" => manifest["id"], "number" => manifest["number"], "from" => from, "trip" => trip }
        @capturing.start(wanted, name: name.strip.empty? ? "Over #{manifest['name']}" : name, at: -> { player.started && (player.started + trip) },
                                 over: over, **@config.slice("bits", "mirror", "project").transform_keys(&:to_sym))
        changed
        @capturing.status
      end

      # @return [Integer] samples from sending to coming back: as measured with this buffer, or else the buffer
      def trip = @config["trips"]&.fetch(@config["buffer"].to_s, nil) || @config["buffer"]

      # Measures the way out by a return and back by a send, and keeps it for overdubs.
      # @param output [Integer] return   @param input [Integer] send
      # @return [Hash] frames, and buffer that it was measured with
      # @raise [Invalid] when nothing comes back
      def measure_trip(output:, input:)
        raise Invalid.new("No samples arrive from the desk, so nothing can be measured.", where: "clock") unless clock?
        raise Invalid.new("Stop playback first.", where: "playback") if @playback.going?

        words = { "id" => "trip", "number" => 0, "name" => "round trip", "frames" => RoundTrip::BURST }
        player = @playback.start(RoundTrip::Burst.new(output, @returns.sum(&:lanes)), words, buffer: @config["buffer"])
        @trip = RoundTrip.new(input, -> { player.started })
        yield_until_heard
        frames = @trip.frames or raise Invalid.new("Nothing came back on card send #{input} of what left on return #{output}: put its channel on take and send it at channel in.",
                                                   where: "trip")
        @config = @config.merge("trips" => @config["trips"].to_h.merge(@config["buffer"].to_s => frames))
        save_config
        { "frames" => frames, "buffer" => @config["buffer"] }
      ensure
        stop unless @trip.nil?
        @trip = nil
      end

      # @param card_status [Proc] gives the card's state for people
      attr_writer :card_status

      # @param wait [Proc] lets time pass while a measurement listens
      attr_writer :wait

      # Stops playback, if there is any.
      def stop
        changed if @playback.stop
        @playback.status
      end

      # Takes a batch: writes, measures. Called from one thread only.
      # @param batch [Batch]
      def handle(batch)
        batch.hold_samples
        @capturing.handle(batch)
        @on_meters&.call(batch.position, *dbfs(batch))
        @listening&.add(batch)
        @trip&.add(batch)
        batch.forget_samples
        stop if @playback.over?
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
      def tracks = @config["tracks"].map { |data| Track.parse(data) }
      def clock? = !@last_arrival.nil? && @now.call - @last_arrival < CLOCK_LOST
      def changed = @on_state&.call

      # Dated where it arises: a disk that is slow is no desk that is silent.
      def arrived(batch)
        note_break(batch)
        @spool.call(batch)
      end

      # How long there was no sound before a batch with which the sender started anew.
      def note_break(batch)
        now = @now.call
        place, batch.break = batch.break, nil
        batch.break = [now - @last_arrival - (batch.frames / rate.to_f), 0.0].max.round(1) if place == :begins && @last_arrival
        @last_arrival = now unless place == :ends
      end

      def wanted_tracks = tracks.select { |track| track.captured? && track.inputs.all? { |lane| lane <= @engine.lanes } }

      def check_config(buffer:, own_mix:, bits:, mirror:)
        raise Invalid.new("the buffer is a number of samples", where: "buffer") unless buffer.is_a?(Integer) && buffer.positive?
        raise Invalid.new("the own mix has two lanes or none", where: "own_mix") unless Track.lanes?(own_mix) && own_mix.size != 1
        raise Invalid.new("there are 24 or 32 bits", where: "bits") unless [24, 32].include?(bits)
        raise Invalid.new("the mirror is a folder", where: "mirror") unless mirror.nil? || mirror.is_a?(String)
      end

      def check_capture(name, frames, back)
        raise Invalid.new("The name is text.", where: "name") unless name.is_a?(String)
        raise Invalid.new("frames is a whole number above 0.", where: "frames") unless frames.nil? || (frames.is_a?(Integer) && frames.positive?)
        raise Invalid.new("back is from 0 to #{LookBack::SECONDS} seconds.", where: "back") unless back.is_a?(Numeric) && back.between?(0, LookBack::SECONDS)
        raise Invalid.new("No samples arrive from the desk, so nothing can be captured.", where: "clock") unless clock?
        raise Invalid.new("No track is armed; arm at least one.", where: "tracks") if wanted_tracks.empty?
      end

      def yield_until_heard
        deadline = @now.call + 5
        until @trip.heard?
          raise Invalid.new("The desk stopped sending meanwhile.", where: "clock") if @now.call > deadline

          (@wait || -> { sleep(0.02) }).call
        end
      end

      def recovered_words = @recovered.map { |take| take.slice("id", "number", "name", "frames", "note") }

      def dbfs(batch)
        peaks, squares = batch.levels
        [peaks.map { |peak| Audio::Level.dbfs(peak) }, squares.map { |square| Audio::Level.rms_of(square) }]
      end

      def load_config
        data = JSON.parse(File.read(@settings_file))
        data["tracks"].each { |track| Track.parse(track) }
        DEFAULTS.merge(data)
      rescue SystemCallError, JSON::ParserError, Invalid, NoMethodError
        DEFAULTS
      end

      def save_config
        File.write("#{@settings_file}.new", JSON.generate(@config))
        File.rename("#{@settings_file}.new", @settings_file)
      end
    end
  end
end
