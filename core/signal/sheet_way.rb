# frozen_string_literal: true

module Loomshuttle
  module Signal
    # Which port of each rail a strand runs through.
    module SheetWay
      # @return [Array<String, nil>] port ids in the order of Sheet::RAILS; nil where the strand has none
      def self.ports(show, strand)
        [source(show, strand), channel(strand), strand.send && "card/send/#{strand.send}", track(show, strand),
         strand.return && "card/return/#{strand.return}"]
      end

      # A strand that starts at a bus or main begins at its card send, and that is no loose end.
      def self.mix?(ids) = ids[0].nil? && ids[1].nil? && !ids[2].nil?

      # Ports of the first rail are what the desk names: a box's socket stands there as the lane of its link.
      def self.source(show, strand)
        stage = strand.socket && show.channel_at(strand.channel)&.stage
        stage && strand.channel.end_with?("/r") ? stage.sub(/\d+\z/) { |number| (number.to_i + 1).to_s } : stage
      end

      def self.channel(strand) = strand.channel&.start_with?("desk/ch/") ? strand.channel : nil

      def self.track(show, strand) = strand.track && show.tracks[strand.track].points("in")[strand.track_lane]
      private_class_method :source, :channel, :track
    end
  end
end
