# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # The take that plays, if any: a player at the engine's clock, and its status.
    class TakePlayback
      # @param engine [Engine]   @param returns [Array<Formats::Sdp::Stream>] of the card
      # @param send [Proc] takes return stream index and RTP bytes
      def initialize(engine, returns:, &send)
        @engine, @returns, @send = engine, returns, send
        @source = Random.rand(1 << 31)
      end

      # @param whole [Boolean] as of Player
      attr_writer :whole

      # @return [Integer] lanes back to the card
      def lanes = @returns.sum(&:lanes)

      # Starts playing; whatever played before stops.
      # @param reader [#read] a TakeReader, or an object with the same methods
      # @param manifest [Hash] id, number, name and frames, for the status
      # @param buffer [Integer] samples between the arrival of input and the matching output
      # @return [Player]
      def start(reader, manifest, buffer:)
        player = Player.new(reader, streams: @returns, buffer: buffer, source: @source, whole: @whole == true, &@send)
        player.fill
        take_out&.close
        @playing = manifest
        @engine.synchronize { @engine.player = @player = player }
      end

      # @return [Boolean] whether anything was playing
      def stop
        player = take_out
        player&.close
        !player.nil?
      end

      # @return [Boolean]
      def going? = !@player.nil?

      # @return [Boolean] whether it has reached its end
      def over? = @player&.done? == true

      # Reads ahead. @return [Boolean] whether there was anything to do
      def fill = @player ? @player.fill : false

      # @return [Integer, nil] frame being sent now
      def position = @player&.position

      # @return [String, nil] id of the take
      def take = @player && @playing["id"]

      # @return [Hash, nil]
      def status
        player = @player or return nil
        from, to, round = player.reader_range
        { "take" => @playing["id"], "number" => @playing["number"], "name" => @playing["name"], "frames" => @playing["frames"],
          "position" => player.position, "from" => from, "to" => to, "loop" => round, "underruns" => player.underruns, "limited" => player.limited }
      end

      private

      def take_out
        @engine.synchronize do
          player, @player = @player, nil
          @engine.player = nil
          player
        end
      end
    end
  end
end
