# frozen_string_literal: true

require "monitor"

module Loomshuttle
  module Recorder
    # Requests about take playback: play, stop, overdub, and measuring the round trip. They are checked here against the card and the takes;
    # TakePlayback does the work.
    class TakePlaybackCalls
      # Shortest loop (seconds), because each repetition costs work.
      SHORTEST_LOOP = 0.1

      # @param engine [Engine]   @param config [Config]   @param playback [TakePlayback]   @param captures [CaptureCalls]
      # @param shelf [Shelf] of the takes   @param now [Proc] monotonic time in seconds
      # @param on_change [Proc] called after each change of state
      def initialize(engine, config, playback, captures, shelf:, now:, on_change:)
        @engine, @config, @playback, @captures, @shelf, @changed = engine, config, playback, captures, shelf, on_change
        @transport = Monitor.new # held while playback is changed, never while a batch is waited for
        @measurement = Trip.new(playback, transport: @transport, returns: playback.lanes, rate: engine.rate, now: now)
      end

      # @param take [Integer, String] number or id
      # @param from [Integer] frame   @param to [Integer, nil]
      # @param by_name [Boolean] whether a take of another show may play, each track to the return of this show's track with the same name
      # @return [Hash] as Playback#status
      # @raise [Invalid]
      def play(take:, from: 0, to: nil, loop: false, by_name: false)
        @engine.need_clock("there is no clock to play by")
        folder, manifest = playable(take)
        outputs = outputs_for(manifest, by_name)
        check_loop(manifest, from, to || manifest["frames"]) if loop
        @transport.synchronize do
          reader = TakeReader.new(folder, manifest, outputs: outputs, lanes: @playback.lanes, own_mix: @config["own_mix"], from: from, to: to, loop: loop)
          @playback.start(reader, manifest, buffer: @config["buffer"])
        end
        @changed.call
        @playback.status
      end

      # Stops playback, if there is any.
      def stop
        @changed.call if @transport.synchronize { @playback.stop }
        @playback.status
      end

      # Captures some tracks while the others of a take play. Both share one time line: the desk's audio counts from the moment at which
      # the take could be heard, so that overdubs line up. If the capture is refused, nothing plays.
      # @param take [Integer, String] number or id   @param tracks [Array<Integer>] numbers to capture, not played back
      # @param from [Integer] frame of the take
      # @return [Hash] as Capturing#status
      # @raise [Invalid]
      def overdub(take:, tracks:, name: "", from: 0)
        @engine.need_clock("nothing can be captured")
        wanted, played = @config.tracks.partition { |track| tracks.include?(track.number) }
        wanted = wanted.select { |track| track.within?(@engine.lanes) }
        raise Invalid.new("Choose at least one track with an input.", where: "tracks") if wanted.empty?

        folder, manifest = playable(take)
        @transport.synchronize { over(manifest, wanted, TakeReader.new(folder, manifest, outputs: outputs_of(played), lanes: @playback.lanes, from: from), name) }
      end

      # @return [Integer] round trip in samples: as measured with this buffer, else the buffer itself
      def trip = @config.trip

      # Measures the round trip through a return and a send, and stores it for overdubs.
      # @param output [Integer] return   @param input [Integer] send
      # @return [Hash] frames, and the buffer used while measuring
      # @raise [Invalid] if nothing returns, there is no such lane, or another measurement is running
      def measure(output:, input:)
        @engine.need_clock("nothing can be measured")
        raise Invalid.new("The card has returns 1 to #{@playback.lanes}, not #{output}.", where: "output") unless output.between?(1, @playback.lanes)
        raise Invalid.new("The card has sends 1 to #{@engine.lanes}, not #{input}.", where: "input") unless input.between?(1, @engine.lanes)

        frames = @measurement.measure(output, input, @config["buffer"]) or
          raise Invalid.new("The test signal from return #{output} did not arrive on card send #{input}. Flip its channel to take and tap its send at channel in.", where: "trip")

        @config.keep_trip(frames)
        { "frames" => frames, "buffer" => @config["buffer"] }
      ensure
        @changed.call
      end

      # @param wait [Proc] waits while a measurement listens (given by tests)
      def wait=(wait)
        @measurement.wait = wait
      end

      # @param batch [Batch] that has arrived
      def listen(batch) = @measurement.add(batch)

      # Reads ahead. @return [Boolean] whether there was anything to do
      def fill = @playback.fill

      # Stops playback that has reached its end. A call that changes playback at the same moment checks the end itself.
      def stop_at_end
        return unless @playback.over? && @transport.try_enter

        begin
          stop
        ensure
          @transport.exit
        end
      end

      private

      def outputs_for(manifest, by_name)
        return outputs_of(@config.tracks) unless Formats::TrackMatching.other_show?(manifest, @config["project"])

        told = "Take #{manifest['number']} is of the show \"#{manifest['project']}\""
        raise Invalid.new("#{told}; its tracks can be played by their names only, when somebody confirms it.", where: "by_name") unless by_name

        matched = Formats::TrackMatching.of(manifest["tracks"], @config.tracks).matched
        raise Invalid.new("#{told}, and none of its tracks has the name of one here.", where: "by_name") if matched.empty?

        matched.transform_values(&:outputs)
      end

      def outputs_of(tracks) = tracks.to_h { |track| [track.number, track.outputs] }

      # @return [Array(String, Hash)] folder and manifest of a take that fits the card's rate
      def playable(take)
        folder, manifest = @shelf.find(take)
        return [folder, manifest] if manifest["rate"] == @engine.rate

        raise Invalid.new("Take #{manifest['number']} was captured at #{manifest['rate'] / 1000.0} kHz, and the card runs at #{@engine.rate / 1000.0} kHz.", where: "take")
      end

      def check_loop(manifest, from, to)
        return if to - from >= manifest["rate"] * SHORTEST_LOOP

        raise Invalid.new("A loop lasts #{SHORTEST_LOOP} s at least; choose a longer part.", where: "to")
      end

      def over(manifest, wanted, reader, name)
        player, trip = nil, self.trip
        started = -> { player&.started && (player.started + trip) }
        about = { "take" => manifest["id"], "number" => manifest["number"], "from" => reader.from, "trip" => trip }
        @captures.start_over(wanted, name: name.strip.empty? ? "Over #{manifest['name']}" : name, at: started, over: about) do
          player = @playback.start(reader, manifest, buffer: @config["buffer"])
        end
      rescue StandardError
        player ? @playback.stop : reader.close
        raise
      end
    end
  end
end
