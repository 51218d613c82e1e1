# frozen_string_literal: true

module Loomshuttle
  module Settings
    # What would harm a capture under way: changes of the rig and the card, of the ways that captured tracks take, and flips away
    # from the stage. Names, gains and the like may change at any time.
    class DuringCapture
      WHOLE = %w[rig/ box/ setup/card_mode setup/bits setup/mirror].freeze

      # @param show [Show] as it is captured
      # @param changes [Array<Change>]
      # @return [Array<Change>] those that would harm
      def self.of(show, changes) = new(show).of(changes)

      def initialize(show)
        @show = show
        @tracks = show.tracks.values.select { |track| track.armed && !track.inputs.empty? }
        @lanes = @tracks.flat_map(&:inputs)
        @channels = @lanes.filter_map { |lane| show.sends[lane]&.source }.filter_map { |base| show.channel_at(base)&.number }
      end

      def of(changes) = changes.select { |change| harms?(change) }

      private

      def harms?(change)
        return true if change.path.start_with?(*WHOLE)

        kind, key, field = change.path.split("/")
        case "#{kind}/#{field}"
        when "send/source", "send/tap" then @lanes.include?(key.to_i)
        when "track/inputs", "track/stereo" then @tracks.any? { |track| track.number == key.to_i }
        when "channel/stage", "channel/phantom" then @channels.include?(key.to_i)
        when "channel/position" then change.to == "take"
        else change.path == "setup/default_tap"
        end
      end
    end
  end
end
