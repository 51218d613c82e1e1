# frozen_string_literal: true

module Loomshuttle
  module Settings
    # Edits that would damage a capture, as each setting declares it: changes of rig and card, of the paths of captured tracks, and flips to take.
    # Names, gains and the like may change at any time.
    class DuringCapture
      # @param show [Show] being captured
      # @param changes [Array<Change>]
      # @return [Array<Change>] those that would harm the capture
      def self.of(show, changes) = new(show).of(changes)

      def initialize(show)
        tracks = show.tracks.values.select { |track| track.armed && !track.inputs.empty? }
        lanes = tracks.flat_map(&:inputs)
        channels = lanes.filter_map { |lane| show.sends[lane]&.source }.filter_map { |base| show.channel_at(base)&.number }
        @ways = { "track" => tracks.map(&:number), "send" => lanes, "channel" => channels }
      end

      def of(changes) = changes.select { |change| harms?(change) }

      private

      def harms?(change)
        collection, key, setting = Settings.find(change.path)
        case setting&.capture
        when :always then true
        when :way then @ways.fetch(collection.name).include?(key)
        when :to_take then change.to == "take"
        else false
        end
      end
    end
  end
end
