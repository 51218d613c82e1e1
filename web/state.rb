# frozen_string_literal: true

module Loomshuttle
  module Web
    # The facts of the state band, put together from the plan, the desk and the recorder. Schema: LiveState.
    class State
      # @param loaded [Store::Shows::Loaded]  @param status [Hash, nil] the recorder's  @param free [Integer, nil] bytes
      def initialize(loaded, sync:, desk:, status:, recorder:, free:)
        @loaded, @sync, @desk, @status, @recorder, @free = loaded, sync, desk, status, recorder, free
        @show = loaded.show
      end

      def to_h
        { version: @loaded.version, rate: @show.rate, desk: desk, positions: positions, recorder: recorder, disk: disk, findings: findings }
      end

      private

      def desk = { up: @desk.up?, apart: @sync.differences(@show)&.size }

      def positions = @show.channels.values.select(&:used?).map(&:position).tally.then { |tally| { stage: tally["stage"].to_i, take: tally["take"].to_i } }

      def recorder
        return { up: false } unless @recorder.up? && @status

        { up: true, clock: @status["clock"], capture: @status["capture"], playback: @status["playback"],
          lost_frames: @status.dig("counts", "lost_frames"), problem: @status["last_problem"], recovered: @status["recovered"] }
      end

      def disk
        armed = @show.tracks.values.select(&:armed).sum { |track| track.inputs.size }
        seconds = @free && Rig::DiskBudget.seconds(free_bytes: @free, lanes: armed, rate: @show.rate, bits: @show.setup.bits)
        { free_bytes: @free, seconds: seconds&.floor, armed_lanes: armed }
      end

      def findings
        tally = Checks.run(Checks::Context.of(@show)).map(&:severity).tally
        { blocks: tally[Checks::Finding::BLOCKS].to_i, look: tally[Checks::Finding::LOOK].to_i }
      end
    end
  end
end
