# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # The take being captured, if any, and the last minute before it. Batches come from one thread, everything else from any.
    class Capturing
      # Batches of the past that are written for each that comes, until the capture has caught up with now.
      CATCH_UP = 6
      # With less free space than this (bytes, or seconds of capture), the take is closed while that is still possible.
      RESERVE = 64 << 20
      LAST_SECONDS = 10
      # One that would be closed in a moment is not begun (seconds).
      FIRST_SECONDS = 15
      # Below this remaining time (seconds), a warning is shown.
      WARN_SECONDS = 300
      # What is behind is waited for when a take is stopped (seconds).
      LONGEST_WAIT = 60
      # Markers in a status; a take's manifest has all.
      SHOWN = 100
      DISKS = { first: "disk", mirror: "mirror's disk" }.freeze

      # Tracks that rest or resume behind the batches that wait before it.
      RestChange = Struct.new(:numbers, :resting) do
        def frames = 0
      end

      # @return [String, nil] why the last take was closed early
      attr_reader :problem
      # @return [LookBack]
      attr_reader :look_back

      # @param root [String] folder of all takes   @param rate [Integer] samples a second   @param lanes [Integer]
      # @param numbers [Numbers]                    @param wall [Proc] the time of day
      # @param on_change [Proc] called when the state changes without a call
      # @yieldreturn [Integer] position up to which batches have arrived, handled or not
      def initialize(root, rate:, lanes:, numbers:, wall:, on_change:, &arrived)
        @root, @rate, @lanes, @numbers, @wall, @on_change, @arrived = root, rate, lanes, numbers, wall, on_change, arrived
        @handled = 0
        @handled_more = ConditionVariable.new
        @look_back = LookBack.new(rate)
        @lock = Mutex.new
        @waiting = []
        @free = {}
      end

      # @param copy [:first, :mirror]   @param bytes [Integer, nil] free on its disk; nil if unknown
      def tell_free(copy, bytes)
        @free = { **@free, copy => bytes }
      end

      # @return [Boolean]
      def going? = !@capture.nil?

      # @param tracks [Array<Track>]   @param back [Numeric] seconds of look-back to include
      # @param at [Proc, nil] returns the start position, or nil while it is unknown
      # @param options [Hash] limit, bits, project, mirror and over, as in Capture
      # @raise [Invalid] if a capture is running or the disk is full   @raise [SystemCallError]
      # @yield after all checks and before anything is created; an error there cancels the capture
      def start(tracks, name:, back: 0, at: nil, **options)
        @lock.synchronize do
          raise Invalid.new("Take #{@capture.number} is being captured already.", where: "capture") if @capture

          check_room(Capture.bytes_a_second(tracks, @rate, options.fetch(:bits, 24)))
          yield if block_given?
          past = back.positive? ? @look_back.since((back * @rate).round) : []
          began = @wall.call - (past.sum(&:frames) / @rate.to_f)
          @capture = Capture.new(@root, tracks: tracks, name: name, lanes: @lanes, rate: @rate, started_at: began, numbers: @numbers, **options)
          @waiting = past
          @at = at
          @problem = nil
        end
        status
      end

      # @return [Hash, nil] the take's manifest with "folder"; nil if there was no capture
      def stop(why = nil)
        now = @arrived.call
        @lock.synchronize do
          catch_up(now)
          write(@waiting.size) unless why
          finish(why)
        end
      end

      # @param frames [Integer] how far back
      # @return [Array<Batch>] the latest batches, oldest first
      def past(frames) = @lock.synchronize { @look_back.since(frames) }

      # @param batch [Batch]
      def handle(batch)
        @lock.synchronize do
          @look_back.add(batch)
          handled(batch)
          next unless @capture

          part = @at ? from_start(batch) : batch
          @waiting << part if part
          leave_full_disks
          write([CATCH_UP, @waiting.size].min)
        end
      end

      # Pauses or resumes tracks from now on, even while look-back is still being written.
      # @param numbers [Array<Integer>]
      # @raise [Invalid]
      def rest(numbers, resting)
        now = @arrived.call
        @lock.synchronize do
          catch_up(now)
          capture = going
          unknown = numbers - capture.manifest["tracks"].map { |track| track["number"] }
          raise Invalid.new("Track #{unknown.join(', ')} is not being captured.", where: "tracks") unless unknown.empty?

          @waiting << RestChange.new(numbers, resting)
          write(1) if @waiting.size == 1
        end
        status
      end

      # Sets a marker at the newest sample, or begins or ends a section there.
      # @param name [String, nil] nil for "Marker 3" and so on   @param kind ["point", "begin", "end"]
      # @return [Hash] at, frames and name
      def mark(name, kind)
        now = @arrived.call
        name &&= Text.keep(name, "name", most: TakeMarkers::LONGEST, lines: false).strip
        name = nil if name && name.empty?
        @lock.synchronize do
          capture = going
          at = capture.frames + @waiting.sum(&:frames) + now - @handled
          TakeMarkers.data([kind == "end" ? end_section(capture, at, name) : set_marker(capture, at, name, kind)]).first
        end
      end

      # @param markers [Array<Formats::Markers::Marker>] replace the present ones
      def markers=(markers)
        @lock.synchronize do
          @section = nil
          going.markers = markers
        end
      end

      # @return [Integer, nil] frames captured so far
      def frames = @capture&.frames

      # @return [Array<Integer>] lanes (0-based) of paused tracks
      def resting_lanes = @capture ? @capture.resting_lanes : []

      # @return [Hash, nil]
      def status
        capture = @capture or return nil
        { "id" => capture.id, "number" => capture.number, "name" => capture.name, "frames" => capture.frames, "behind" => @waiting.sum(&:frames),
          "resting" => capture.resting, "markers" => TakeMarkers.data(capture.markers.last(SHOWN)), "marker_count" => capture.markers.size, "section" => !@section.nil?,
          "disk_seconds" => seconds_left(capture).values.min, "warning" => warning(capture) }
      end

      private

      def handled(batch)
        @handled = batch.position + batch.frames
        @handled_more.broadcast
      end

      # A slow disk cuts nothing off that was played before somebody pressed a key. Wants the lock, and lets go of it while it waits.
      # @param now [Integer] position up to which batches had arrived then
      def catch_up(now)
        capture = @capture
        deadline = Runtime::Clock.now + LONGEST_WAIT
        @handled_more.wait(@lock, 0.5) while @handled < now && @capture.equal?(capture) && Runtime::Clock.now < deadline
      end

      # What of a batch lies behind the place where it begins; from then on all of it.
      def from_start(batch)
        start = @at.call or return
        batch.from(start).tap { |part| @at = nil if part }
      end

      def going = @capture || raise(Invalid.new("Nothing is being captured.", where: "capture"))

      def write(count)
        return unless @capture

        @waiting.shift(count).each do |one|
          next @capture.rest(one.numbers, one.resting) if one.is_a?(RestChange)

          @capture.write(one) unless @capture.full?
        end
        ended if @capture.full?
      rescue SystemCallError, Invalid => e
        ended("Take #{@capture.number} ended early: #{e.message}")
      rescue StandardError => e
        Runtime::Log.surprise(e, "writing take #{@capture.number}")
        ended("Take #{@capture.number} ended early: recorder error (#{e.class}). See the log.")
      end

      def ended(why = nil)
        @problem = why
        finish(why)
        @on_change.call
      end

      def finish(why)
        return unless @capture

        capture, @capture = @capture, nil
        @waiting = []
        @section = nil
        done = capture.finish(why)
        @problem = done["note"] unless done["state"] == "complete" && capture.copies.include?(:first)
        done.merge("folder" => File.expand_path(capture.folder))
      end

      def set_marker(capture, at, name, kind)
        raise Invalid.new("A take has #{TakeMarkers::MOST} markers at most.", where: "markers") if capture.markers.size >= TakeMarkers::MOST

        made = Formats::Markers::Marker.new(at: at, frames: 0, name: name || "#{kind == 'begin' ? 'Section' : 'Marker'} #{capture.markers.size + 1}")
        @section = made if kind == "begin"
        capture.markers += [made]
        made
      end

      # The marker where it began becomes the section.
      def end_section(capture, at, name)
        begun, @section = @section, nil
        raise Invalid.new("No section was begun.", where: "kind") unless begun

        made = begun.with(frames: at - begun.at, name: name || begun.name)
        capture.markers = capture.markers.map { |one| one.equal?(begun) ? made : one }
        made
      end

      # What is left for each copy, in seconds, where that is known.
      def seconds_left(capture) = capture.copies.to_h { |copy| [copy, seconds_of(copy, capture.bytes_a_second)] }.compact
      def seconds_of(copy, rate) = @free[copy] && rate.positive? ? (@free[copy] - RESERVE) / rate : nil

      def check_room(rate)
        return if (seconds_of(:first, rate) || FIRST_SECONDS) >= FIRST_SECONDS

        raise Full, "The disk is full: #{@free[:first] >> 20} MiB are free, of which #{RESERVE >> 20} MiB stay free. Make room, or choose fewer tracks."
      end

      # Leaves a copy whose disk is nearly full, and ends the take where that was the last one.
      def leave_full_disks
        capture = @capture
        seconds_left(capture).select { |_, left| left < LAST_SECONDS }.each_key do |copy|
          next if capture.leave(copy, "its disk is full")

          ended("Disk almost full: take #{capture.number} was ended safely; nothing was lost.")
        end
      end

      def warning(capture)
        copy, left = seconds_left(capture).min_by(&:last)
        full = "The #{DISKS[copy]} will be full in #{left / 60} min #{left % 60} s." if left && left < WARN_SECONDS
        [full, capture.problem].compact.join(" ").then { |words| words unless words.empty? }
      end
    end
  end
end
