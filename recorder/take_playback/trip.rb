# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # Measures a round trip from a return to a send, one at a time, through the existing take playback. Batches are handed in (`add`) by another
    # thread than the one that waits here.
    class Trip
      # Longest wait for what should come back (seconds).
      PATIENCE = 5

      # @param playback [TakePlayback]   @param transport [Monitor] held while playback is changed
      # @param returns [Integer] lanes of the card   @param rate [Integer]   @param now [Proc] monotonic time in seconds
      def initialize(playback, transport:, returns:, rate:, now:)
        @playback, @transport, @returns, @rate, @now = playback, transport, returns, rate, now
        @wait = -> { sleep(0.02) }
        @one = Mutex.new # held by whoever measures
      end

      # @param wait [Proc] lets time pass while it listens
      attr_writer :wait

      # @param batch [Batch]
      def add(batch) = @listening&.add(batch)

      # @param output [Integer] return   @param input [Integer] send
      # @param buffer [Integer] samples
      # @return [Integer, nil] frames; nil if nothing returned
      # @raise [Invalid] if something plays, or another measurement is running
      def measure(output, input, buffer)
        raise Invalid.new("A measurement is under way already.", where: "trip") unless @one.try_lock

        begin
          listen(play(output, buffer), input)
        ensure
          @one.unlock
        end
      end

      private

      def play(output, buffer)
        @transport.synchronize do
          raise Invalid.new("Stop the take first.", where: "playback") if @playback.going?

          words = { "id" => "trip", "number" => 0, "name" => "round trip", "frames" => RoundTrip::BURST }
          @playback.start(RoundTrip::Burst.new(output, @returns, @rate), words, buffer: buffer)
        end
      end

      def listen(player, input)
        @listening = RoundTrip.new(input, -> { player.started }, @rate)
        deadline = @now.call + PATIENCE
        until @listening.heard?
          raise Invalid.new("The desk stopped sending during the measurement.", where: "clock") if @now.call > deadline

          @wait.call
        end
        @listening.frames
      ensure
        @listening = nil
        @transport.synchronize { @playback.stop }
      end
    end
  end
end
