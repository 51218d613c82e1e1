# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # Requests about captures: armed tracks, start, stop, pause, markers. They are checked here against the card and the configuration; Capturing
    # does the work.
    class CaptureCalls
      # @param engine [Engine]   @param config [Config]   @param capturing [Capturing]   @param playback [TakePlayback]
      # @param on_change [Proc] called after each change of state
      def initialize(engine, config, capturing, playback, on_change:)
        @engine, @config, @capturing, @playback, @changed = engine, config, capturing, playback, on_change
      end

      # @param tracks [Array<Hash>] number, name, inputs, outputs, armed
      # @param others [Hash] other values, unchanged if absent: buffer (samples each way), own_mix (return lanes of the recorder mix, or
      #   none), bits (24 or 32, float), mirror (folder of a second copy, or nil), project (the show)
      def configure(tracks:, **others)
        @config.change(tracks, others.transform_keys(&:to_s))
        @changed.call
      end

      # @param numbers [Array<Integer>, nil] tracks; nil for all that have an input
      # @raise [Invalid]
      def arm(armed:, numbers: nil)
        raise Invalid.new("armed must be true or false", where: "armed") unless [true, false].include?(armed)

        unknown = Array(numbers) - @config.tracks.map(&:number)
        raise Invalid.new("there is no track #{unknown.join(', ')}", where: "tracks") unless unknown.empty?

        configure(tracks: @config["tracks"].map { |one| numbers.nil? || numbers.include?(one["number"]) ? one.merge("armed" => armed) : one })
      end

      # @param name [String] of the take
      # @param frames [Integer, nil] length after which it stops automatically
      # @param back [Numeric] seconds of look-back to include, as far as they are held
      # @return [Hash] as Capturing#status
      # @raise [Invalid]
      def start(name: "", frames: nil, back: 0)
        check(name, frames, back)
        wanted = @config.tracks.select { |track| track.captured? && track.within?(@engine.lanes) }
        raise Invalid.new("No track is armed; arm at least one.", where: "tracks") if wanted.empty?

        begin_take(wanted, name: name.strip.empty? ? "Take" : name, limit: frames, back: back)
      end

      # Captures tracks while others play.
      # @param tracks [Array<Track>]   @param at [Proc] returns the start position once it is known   @param over [Hash] the overdubbed take, as in Capture
      # @yield to start playback, once the capture is waiting for it
      # @return [Hash] as Capturing#status
      # @raise [Invalid]
      def start_over(tracks, name:, at:, over:, &play)
        check(name, nil, 0)
        begin_take(tracks, name: name, at: at, over: over, &play)
      end

      # @return [Hash] the take's manifest
      # @raise [Invalid] if there is no capture
      def stop
        done = @capturing.stop
        raise Invalid.new("Nothing is being captured.", where: "capture") unless done

        @playback.stop if done["over"]
        @changed.call
        done
      end

      # @param tracks [Array<Integer>] numbers   @param resting [Boolean]
      def rest(tracks:, resting:) = @capturing.rest(tracks, resting == true).tap { @changed.call }

      # @param kind ["point", "begin", "end"] a marker, or where a section begins or ends
      # @return [Hash] the marker
      def mark(name: nil, kind: "point")
        raise Invalid.new("kind is point, begin or end", where: "kind") unless %w[point begin end].include?(kind)

        @capturing.mark(name, kind).tap { @changed.call }
      end

      # @param take [Integer, String] number or id
      # @return [Boolean] whether it is the take being captured
      def under_way?(take) = @capturing.status&.values_at("id", "number")&.include?(take) == true

      # @param changes [Hash] to the take being captured; markers only
      # @return [Hash] as Capturing#status
      def change(**changes)
        @capturing.markers = TakeMarkers.parse(changes.fetch(:markers) { raise Invalid.new("Only markers can be changed while it is captured.", where: "take") })
        @changed.call
        @capturing.status
      end

      private

      def begin_take(tracks, **options, &)
        @capturing.start(tracks, bits: @config["bits"], mirror: @config["mirror"], project: @config["project"], **options, &)
        @changed.call
        @capturing.status
      end

      def check(name, frames, back)
        Text.keep(name, "The name", most: 80, lines: false)
        raise Invalid.new("frames is a whole number above 0.", where: "frames") unless frames.nil? || (frames.is_a?(Integer) && frames.positive?)
        raise Invalid.new("back is from 0 to #{LookBack::SECONDS} seconds.", where: "back") unless back.is_a?(Numeric) && back.between?(0, LookBack::SECONDS)

        @engine.need_clock("nothing can be captured")
      end
    end
  end
end
