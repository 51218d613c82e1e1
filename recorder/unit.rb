# frozen_string_literal: true

require "fileutils"
require "json"

module Loomshuttle
  module Recorder
    # A whole recorder without sockets or threads: what it is told (configure, arm, capture, play) and what arrives. The
    # process and the tests' in-process card both drive this. Two locks: the engine's for what happens at each packet,
    # and one for the take under way.
    class Unit
      # Without arriving samples for this long (seconds) there is no clock.
      CLOCK_LOST = 0.5
      DEFAULTS = { "tracks" => [], "buffer" => 1024 }.freeze

      attr_reader :engine, :recovered, :takes

      # @param sends [Array<Formats::Sdp::Stream>] what arrives from the card
      # @param returns [Array<Formats::Sdp::Stream>] what goes back to it
      # @param takes [String] folder of all takes
      # @param settings [String] file that keeps the configuration over a restart
      # @param now [Proc] seconds that only grow   @param wall [Proc] the time of day
      # @param send [Proc] takes return stream index and RTP bytes
      def initialize(sends:, returns:, takes:, settings:, now:, wall: -> { Time.now }, &send)
        @sends, @returns, @takes, @settings_file, @now, @wall, @send = sends, returns, takes, settings, now, wall, send
        @engine = Engine.new(sends) { |batch| @spool.call(batch) }
        @spool = method(:handle)
        @take_lock = Mutex.new
        @config = load_config
        FileUtils.mkdir_p(takes)
        @recovered = Recovery.run(takes)
        @source = Random.rand(1 << 31)
      end

      # @param spool [Proc] takes batches instead of handling them where they arise, to hand them to `handle` elsewhere
      attr_writer :spool
      # @param on_meters [Proc] takes position, peaks and RMS in dBFS of all lanes, every 50 ms
      # @param on_state [Proc] called when the state has changed
      attr_writer :on_meters, :on_state

      # @return [Hash] everything a person wants to know at a glance
      def status
        { "clock" => clock?, "position" => @engine.position, "rate" => rate, "lanes" => @engine.lanes, "buffer" => @config["buffer"],
          "counts" => @engine.counts.transform_keys(&:to_s), "restarts" => @engine.timeline.restarts, "capture" => capture_status,
          "playback" => playback_status, "tracks" => @config["tracks"], "takes_folder" => File.expand_path(@takes),
          "last_problem" => @problem, "recovered" => @recovered.map { |take| take.slice("id", "number", "name", "frames", "note") } }
      end

      # @return [Hash] frames of the take under way and of the one that plays; nil where there is none
      def progress = { "capture" => @capture&.frames, "playback" => @player&.position }

      # @param tracks [Array<Hash>] number, name, inputs, outputs, armed
      # @param buffer [Integer] samples each way
      def configure(tracks:, buffer: @config["buffer"])
        raise Invalid.new("tracks must be a list", where: "tracks") unless tracks.is_a?(Array)
        raise Invalid.new("the buffer is a number of samples", where: "buffer") unless buffer.is_a?(Integer) && buffer.positive?

        @config = { "tracks" => tracks.map { |track| Track.parse(track).to_h.transform_keys(&:to_s) }, "buffer" => buffer }
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
      # @return [Hash] capture_status
      def capture_start(name: "", frames: nil)
        check_capture(name, frames)
        @take_lock.synchronize do
          @capture = Capture.new(@takes, tracks: wanted_tracks, name: name.strip.empty? ? "Take" : name, lanes: @engine.lanes,
                                         rate: rate, started_at: @wall.call, limit: frames)
        end
        @problem = nil
        changed
        capture_status
      end

      # @return [Hash] the take's manifest
      def capture_stop
        done = @take_lock.synchronize { finish_capture }
        raise Invalid.new("Nothing is being captured.", where: "capture") unless done

        changed
        done
      end

      # @param take [Integer, String] number or id
      # @param from [Integer] frame   @param to [Integer, nil]
      def play(take:, from: 0, to: nil, loop: false)
        raise Invalid.new("No samples arrive from the desk, so there is no clock to play by.", where: "clock") unless clock?

        folder, manifest = find_take(take)
        reader = TakeReader.new(folder, manifest, outputs: tracks.to_h { |track| [track.number, track.outputs] },
                                                  lanes: @returns.sum(&:lanes), from: from, to: to, loop: loop)
        start_player(reader, manifest)
        changed
        playback_status
      end

      # Stops playback, if there is any.
      def stop
        player = take_player_out
        player&.close
        changed if player
        playback_status
      end

      # Takes a batch: writes, measures. Called from one thread only.
      # @param batch [Batch]
      def handle(batch)
        @last_arrival = @now.call
        @take_lock.synchronize { write(batch) }
        @on_meters&.call(batch.position, *dbfs(batch))
        stop if @player&.done?
      end

      # Reads ahead for playback.
      # @return [Boolean] whether there was something to do
      def fill = @player ? @player.fill : false

      # Ends everything under way, for the process to stop.
      def close
        @take_lock.synchronize { finish_capture("The recorder was stopped.") }
        stop
      end

      private

      def rate = @sends.first.rate
      def tracks = @config["tracks"].map { |data| Track.parse(data) }
      def clock? = !@last_arrival.nil? && @now.call - @last_arrival < CLOCK_LOST
      def changed = @on_state&.call

      def wanted_tracks = tracks.select { |track| track.captured? && track.inputs.all? { |lane| lane <= @engine.lanes } }

      def check_capture(name, frames)
        raise Invalid.new("The name is text.", where: "name") unless name.is_a?(String)
        raise Invalid.new("frames is a whole number above 0.", where: "frames") unless frames.nil? || (frames.is_a?(Integer) && frames.positive?)
        raise Invalid.new("Take #{@capture.number} is being captured already.", where: "capture") if @capture
        raise Invalid.new("No samples arrive from the desk, so nothing can be captured.", where: "clock") unless clock?
        raise Invalid.new("No track is armed; arm at least one.", where: "tracks") if wanted_tracks.empty?
      end

      def write(batch)
        return unless @capture

        @capture.write(batch)
        finish_capture && changed if @capture.full?
      rescue SystemCallError, Invalid => e
        @problem = "Take #{@capture.number} was closed early: #{e.message}"
        finish_capture(@problem)
        changed
      end

      def finish_capture(why = nil)
        return unless @capture

        capture, @capture = @capture, nil
        capture.finish(why).merge("folder" => File.expand_path(capture.folder))
      end

      def capture_status
        capture = @capture or return nil
        { "id" => capture.id, "number" => capture.number, "name" => capture.name, "frames" => capture.frames }
      end

      def playback_status
        player = @player or return nil
        from, to, round = player.reader_range
        { "take" => @playing["id"], "number" => @playing["number"], "name" => @playing["name"], "frames" => @playing["frames"],
          "position" => player.position, "from" => from, "to" => to, "loop" => round, "underruns" => player.underruns }
      end

      def find_take(take)
        found = Manifest.all(@takes).find { |_, manifest| [manifest["id"], manifest["number"]].include?(take) }
        raise Invalid.new("There is no take #{take}.", where: "take") unless found
        raise Invalid.new("Take #{take} is still being captured.", where: "take") if found.last["state"] == "capturing"

        found
      end

      def start_player(reader, manifest)
        player = Player.new(reader, streams: @returns, buffer: @config["buffer"], source: @source, &@send)
        player.fill
        take_player_out&.close
        @playing = manifest
        @engine.synchronize { @engine.player = @player = player }
      end

      def take_player_out
        @engine.synchronize do
          player, @player = @player, nil
          @engine.player = nil
          player
        end
      end

      def dbfs(batch)
        peaks, squares = batch.levels
        [peaks.map { |peak| Audio::Level.dbfs(peak) }, squares.map { |square| Audio::Level.rms_of(square) }]
      end

      def load_config
        data = JSON.parse(File.read(@settings_file))
        data["tracks"].each { |track| Track.parse(track) }
        data
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
