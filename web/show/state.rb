# frozen_string_literal: true

module Loomshuttle
  module Web
    # The facts in the status bar, from the plan, the desk and the recorder (schema LiveState).
    class State
      # @param derived [Derived]  @param guarded [Boolean] whether a take is being captured and the guard is closed
      # @param apart [Integer, nil] number of settings in which plan and desk differ
      # @param stranger [String, nil] profile of the connected desk if the plan is for another one
      # @param status [Hash, nil] the recorder's  @param free [Integer, nil] bytes
      # @param troubles [Array<String>] sentences about parts that were given up
      # @param heard [Array<Checks::Finding>] about who hears what   @param on_take [Array<Integer>] channels on take at the desk
      def initialize(derived, guarded:, apart:, stranger:, desk:, status:, recorder:, free:, troubles: [], heard: [], on_take: [])
        @derived, @guarded, @apart, @stranger, @desk, @status, @recorder, @free = derived, guarded, apart, stranger, desk, status, recorder, free
        @troubles, @heard, @on_take = troubles, heard, on_take
        @show = derived.show
      end

      def to_h
        { show: @derived.id, version: @derived.version, rate: @show.rate, clock: Settings::Clock.words(@show), desk: desk, positions: positions, recorder: recorder, disk: disk,
          findings: findings, troubles: @troubles }
      end

      private

      def desk = { up: @desk.up?, apart: @apart, stranger: @stranger, follows: @show.setup.desk_follows == "at once" }

      # As the desk says it, which need not be what the open show has.
      def positions
        used = @show.channels.values.select(&:used?).map(&:number)
        { stage: (used - @on_take).size, take: @on_take.size, channels: @on_take }
      end

      def recorder
        return { up: false } unless @recorder.up? && @status

        { up: true, clock: @status["clock"], hz: @status["hz"], off: hz_off?, capture: @status["capture"], take_playback: @status["take_playback"],
          guarded: @guarded, look_back: @status["look_back"], trip: @status["trip"], card: @status["card"],
          lost_frames: @status.dig("counts", "lost_frames"), foreign: @status.dig("counts", "foreign"), problem: @status["last_problem"],
          recovered: @status["recovered"], recovering: @status["recovering"],
          mirror_problem: @status["mirror_problem"], mirror_note: @status["mirror_note"] }
      end

      def hz_off? = !@status["hz"].nil? && Checks::CardPace.off?(@show, @status["hz"])

      def disk
        armed = @show.tracks.values.select(&:armed).sum { |track| track.inputs.size }
        seconds = @free && Rig::DiskBudget.seconds(free_bytes: @free, lanes: armed, rate: @show.rate, bits: @show.setup.bits)
        { free_bytes: @free, seconds: seconds&.floor, armed_lanes: armed }
      end

      def findings
        all = @derived.findings + @heard
        tally = all.reject { |finding| @show.setup.accepted.key?(finding.id) }.map(&:severity).tally
        { blocks: tally[Checks::Finding::BLOCKS].to_i, look: tally[Checks::Finding::LOOK].to_i, accepted: all.size - tally.values.sum }
      end
    end
  end
end
