# frozen_string_literal: true

module Loomshuttle
  module Web
    # A listener's current sound for a browser, which requests one stretch after the other.
    class LiveEars
      # Ways that one listener may have; the loudest count.
      MOST = 500
      # Listeners that the recorder mixes for at once, so that it has time for everybody else; and seconds to wait for one's turn.
      AT_ONCE, PATIENCE = 2, 1

      # @param who_hears [WhoHears]   @param recorder [RecorderLink]
      def initialize(who_hears, recorder)
        @who_hears, @recorder = who_hears, recorder
        @turns = Runtime::Mailbox.new(most: AT_ONCE)
        AT_ONCE.times { |turn| @turns << turn }
      end

      # @param listener [Integer]   @param from [Integer, nil] position to continue from
      # @return [Hash] schema Heard: the recorder's answer, and whether it comes from the outputs themselves or is computed from channels
      # @raise [Invalid] @raise [Away]
      def read(listener, from)
        by, ways = Hearing::Carried.of(@who_hears.now.survey, listener)
        loud = ways.reject { |way| way.amplitude.abs < 1e-4 }.max_by(MOST) { |way| way.amplitude.abs }
        given = loud.map { |way| way.to_h.merge(amplitude: way.amplitude.clamp(-10, 10).round(6)).transform_keys(&:to_s) }
        in_turn { @recorder.call("ears.mix", ways: given, from: from).merge("by" => by) }
      end

      private

      def in_turn
        turn = @turns.pop(PATIENCE) or raise(Busy, "Too many listeners at once; retrying.")
        begin
          yield
        ensure
          @turns << turn
        end
      end
    end
  end
end
