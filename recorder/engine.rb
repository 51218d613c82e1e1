# frozen_string_literal: true

require "monitor"

module Loomshuttle
  module Recorder
    # The way of the sound through the recorder: packets in, batches out, playback packets back. It has no thread, no
    # socket and no clock: its time is the counter of the samples that arrive, so a test can drive it as fast as it
    # likes. `receive` and everything that changes it run under one lock.
    class Engine
      BATCH = 2400
      # How long a missing packet is waited for, in samples (20 ms).
      WINDOW = 960

      attr_reader :position, :intakes, :timeline

      # @param streams [Array<Formats::Sdp::Stream>] of the card's sends
      # @param on_batch [Proc] takes each Batch, in order
      def initialize(streams, &on_batch)
        @streams = streams
        @intakes = streams.map { |stream| Intake.new(stream.lanes) }
        @timeline = Timeline.new
        @on_batch = on_batch
        @position = 0
        @newest = 0
        @lock = Monitor.new
      end

      def synchronize(&) = @lock.synchronize(&)

      # @param player [Player, nil] told of each step of the clock
      attr_writer :player

      # @param stream [Integer] index
      # @param bytes [String] a datagram; what is no RTP packet, or no whole frames, is ignored
      def receive(stream, bytes)
        packet = Formats::Rtp.unpack(bytes)
        return unless packet && whole?(stream, packet.payload)

        synchronize { accept(stream, packet) }
      end

      # @return [Integer] lanes of all streams
      def lanes = @streams.sum(&:lanes)

      # @return [Hash] packets, late, repeated, reordered and lost_frames over all streams
      def counts = @intakes.map(&:counts).reduce { |sum, one| sum.merge(one) { |_, a, b| a + b } }

      private

      def whole?(stream, payload) = !payload.empty? && (payload.bytesize % (@streams[stream].lanes * Audio::Pcm24::BYTES)).zero?

      def accept(stream, packet)
        position, restarted = @timeline.locate(stream, packet, @newest)
        position = flush if restarted
        @intakes[stream].push(position, packet.payload)
        step_clock(@intakes[stream].newest) if @intakes[stream].newest > @newest
        release while ready?
      end

      def step_clock(newest)
        @newest = newest
        @player&.tick(@newest, @timeline)
      end

      def ready?
        due = @position + BATCH
        return false if @newest < due

        @newest >= due + WINDOW || @intakes.all? { |intake| intake.complete_to?(due) }
      end

      def release
        upto = @position + BATCH
        streams = []
        gaps = []
        @intakes.each_with_index do |intake, index|
          bytes, missing = intake.take(upto)
          first = @streams[index].first - 1
          streams << [first, intake.lanes, bytes]
          missing.each { |gap| gaps << [first, intake.lanes, gap.at, gap.frames] }
        end
        batch = Batch.new(@position, BATCH, streams, gaps, @break)
        @position = upto
        @break = nil unless @break == :ends
        @on_batch.call(batch)
      end

      # A restarted sender begins at a whole batch; what was under way is closed with silence.
      def flush
        @break = :ends
        release while @position < @newest
        @newest = @position
        @break = :begins
        @intakes.each { |intake| intake.restart(@position) }
        @timeline.rebase(@position)
      end
    end
  end
end
