# frozen_string_literal: true

require "monitor"

module Loomshuttle
  module Recorder
    # The way of the sound through the recorder: packets in, batches out, playback packets back. It has no thread, no
    # socket and no clock: its time is the counter of the samples that arrive, so a test can drive it as fast as it
    # likes. `receive`, `look` and everything that changes it run under one lock, which is held for moments.
    #
    # What it holds is bounded whatever arrives: a stream has one sender (Sender), a packet far from what is expected is believed only
    # when others follow on it, and a gap, however long, is a length and no silence in memory.
    class Engine
      # Batches a second.
      BATCHES = 20
      # How long a missing packet is waited for (seconds).
      WAIT = 0.02
      # A packet that lies further ahead of the newest one than this (seconds) is believed once CONFIRM of them follow on each other; one that
      # lies further behind, once nothing else has come for STEADY (seconds), for late packets come in bursts.
      NEAR, BEHIND = 1.0, 0.2
      CONFIRM, STEADY = 3, 0.1
      # A sender that goes on with a later time has left a gap of that length, up to this (seconds); beyond it has started again.
      LONGEST_GAP = 600
      # Another sender that is ahead of the one before it by no more than this (seconds) has the same time.
      TAKEN_OVER = 5
      # Without arriving samples for this long (seconds) there is no clock.
      CLOCK_LOST = 0.5
      # Silence of this length is reported even without a counter (seconds).
      PAUSE = 0.5
      # How the sender's time went on: kind "paused" or "restarted", at (position), and seconds on the wall.
      Break = Struct.new(:kind, :at, :seconds)

      attr_reader :position, :intakes, :timeline, :rate, :batch, :heard_at

      # @param streams [Array<Formats::Sdp::Stream>] of the card's sends
      # @param now [Proc] monotonic time in seconds
      # @param on_batch [Proc] called with each Batch, in order
      def initialize(streams, now: -> { 0.0 }, &on_batch)
        @streams, @now, @on_batch = streams, now, on_batch
        @rate = streams.first.rate
        @batch = @rate / BATCHES
        @window, @longest = (@rate * WAIT).round, @rate * LONGEST_GAP
        @near = (-(@rate * BEHIND).round..(@rate * NEAR).round)
        @intakes = streams.map { |stream| Intake.new(stream.lanes) }
        @senders = streams.map { |stream| Sender.new(stream.lanes, stream.payload_type) }
        @far = streams.map { [] }
        @sources = []
        @timeline = Timeline.new
        @quiet, @pace = Quiet.new, Pace.new(@rate)
        @breaks = []
        @position = @newest = 0
        @noise = 0
        @lock = Monitor.new
      end

      def synchronize(&) = @lock.synchronize(&)

      # @param player [Player, nil] told of each step of the clock
      attr_writer :player

      # @param stream [Integer] index
      # @param arrived [String, Formats::RtpRuns::Run] a datagram, or packets that follow on each other; what is not an RTP packet of the stream's
      #   sender is counted and ignored
      def receive(stream, arrived)
        return receive_run(stream, arrived) unless arrived.is_a?(String)

        packet = Formats::Rtp.unpack(arrived)
        synchronize do
          next @noise += 1 unless packet

          admit(stream, packet, @now.call)
        end
      end

      # Notes that nothing had arrived at this moment; silence is measured by this.
      def look = synchronize { @quiet.look(@now.call) }

      # @return [Integer] lanes of all streams
      def lanes = @streams.sum(&:lanes)

      # @return [Float, nil] measured samples per second; nil until it is known
      def hz = synchronize { clock? ? @pace.hz : nil }

      # @return [Boolean] whether samples arrive
      def clock? = !@heard_at.nil? && @now.call - @heard_at < CLOCK_LOST

      # @param why [String] what needs the clock, for the message
      # @raise [Invalid] if no samples arrive
      def need_clock(why)
        raise Invalid.new("No audio from the desk, so #{why}.", where: "clock") unless clock?
      end

      # @return [Hash] packets, late, repeated, reordered, crowded, lost_frames and foreign over all streams
      def counts
        @intakes.map(&:counts).reduce { |sum, one| sum.merge(one) { |_, a, b| a + b } }.merge(foreign: @noise + @senders.sum(&:foreign))
      end

      private

      # Takes a whole run where each of its packets would be taken without a question, and its packets one by one otherwise.
      def receive_run(stream, run)
        synchronize do
          now = @now.call
          next run.packets(@senders[stream].frame_bytes).each { |packet| admit(stream, packet, now) } unless plain?(stream, run, now)

          take_run(stream, run, now)
        end
      end

      def admit(stream, packet, now) = @senders[stream].admit(packet, now).each { |one| accept(stream, one, now) }

      # The sender that is listened to goes on where it was.
      def plain?(stream, run, now)
        return false unless @timeline.started? && @sources[stream] == run.source && @far[stream].empty? && @senders[stream].goes_on?(run, now)

        first = @timeline.position(run.timestamp)
        frames = run.payload.bytesize / @senders[stream].frame_bytes
        @near.cover?(first - @newest) && first + frames - @newest <= @near.max && @intakes[stream].goes_on?(first)
      end

      def take_run(stream, run, now)
        intake = @intakes[stream]
        position = @timeline.position(run.timestamp)
        note_pause(position, now)
        last = position + ((run.count - 1) * (run.bytes / @senders[stream].frame_bytes))
        @timeline.move((run.timestamp + last - position) % Formats::Rtp::TIMESTAMPS, last)
        intake.push(position, run.payload, run.count)
        step_clock(intake.newest, now) if intake.newest > @newest
        release while ready?
      end

      def accept(stream, packet, now)
        @timeline.start(packet.timestamp, @newest) unless @timeline.started?
        changed = @sources[stream] && @sources[stream] != packet.source
        @sources[stream] = packet.source
        return restart(packet, now) && take(stream, packet, now) if changed && !goes_on?(packet)
        return far(stream, packet, now) unless near?(packet)

        held = @far[stream].slice!(0..).select { |one| near?(one) }
        (held << packet).each { |one| take(stream, one, now) }
      end

      def ahead(packet) = @timeline.position(packet.timestamp) - @newest
      def near?(packet) = @near.cover?(ahead(packet))

      # Whether another sender has the time of the one before it.
      def goes_on?(packet) = ahead(packet).between?(@near.min, TAKEN_OVER * @rate)

      def take(stream, packet, now)
        position = @timeline.position(packet.timestamp)
        note_pause(position, now)
        @timeline.move(packet.timestamp, position)
        @intakes[stream].push(position, packet.payload)
        step_clock(@intakes[stream].newest, now) if @intakes[stream].newest > @newest
        release while ready?
      end

      # A single packet from another time is a stray; a few that follow on each other are the sender's own new time.
      def far(stream, packet, now)
        held = @far[stream]
        held.clear if held.any? && Formats::Rtp.distance(held.last.timestamp, packet.timestamp, Formats::Rtp::TIMESTAMPS).abs > @near.max
        held << packet
        return if held.size < (ahead(packet).positive? ? CONFIRM : STEADY * @rate / @senders[stream].frames)

        packets = held.slice!(0..).sort_by { |one| @timeline.position(one.timestamp) }
        restart(packets.first, now) unless ahead(packets.first).between?(0, @longest)
        packets.each { |one| take(stream, one, now) }
      end

      # Silence that the sender's own counter does not tell: it waited, too.
      def note_pause(position, now)
        silent = @quiet.heard(now)
        @heard_at = now
        return if silent < PAUSE || @newest.zero?

        untold = silent - ([position - @newest, 0].max / @rate.to_f)
        return unless untold > PAUSE

        @pace.restart
        @breaks << Break.new("paused", @newest, untold.round(1))
      end

      # A restarted sender begins at a whole batch; what was under way is closed with silence.
      def restart(packet, now)
        silent = @quiet.heard(now)
        @pace.restart
        reached = @newest
        release while @position < @newest
        @newest = @position
        @intakes.each { |intake| intake.restart(@position) }
        @timeline.start(packet.timestamp, @position)
        @breaks << Break.new("restarted", @position, [silent - ((@position - reached) / @rate.to_f), 0.0].max.round(1))
      end

      def step_clock(newest, now)
        @newest = newest
        @pace.note(now, newest)
        @player&.tick(@newest, @timeline)
      end

      def ready?
        due = @position + @batch
        return false if @newest < due

        @newest >= due + @window || @intakes.all? { |intake| intake.complete_to?(due) }
      end

      def release
        whole = passed_over
        return hand_on(@position + (whole * @batch)) { |intake, upto| [nil, [intake.skip(upto)]] } if whole > 1

        hand_on(@position + @batch) { |intake, upto| intake.take(upto) }
      end

      # Whole batches of which nothing is here, before what came after them.
      def passed_over
        return 0 if @newest - @position < 4 * @batch

        ([@intakes.filter_map(&:oldest).min || @newest, @newest - @window].min - @position) / @batch
      end

      def hand_on(upto)
        streams, gaps = [], []
        @intakes.each_with_index do |intake, index|
          first = @streams[index].first - 1
          bytes, missing = yield(intake, upto)
          streams << [first, intake.lanes, bytes]
          missing.each { |gap| gaps << [first, intake.lanes, gap.at, gap.frames] }
        end
        breaks, @breaks = @breaks.partition { |one| one.at < upto }
        batch = Batch.new(@position, upto - @position, streams, gaps, breaks)
        @position = upto
        @on_batch.call(batch)
      end
    end
  end
end
