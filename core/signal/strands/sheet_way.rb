# frozen_string_literal: true

module Loomshuttle
  module Signal
    # The port of each rail that a strand runs through.
    module SheetWay
      # @return [Array<Rig::Point, nil>] port ids in the order of Sheet::RAILS; nil on a rail that the strand does not touch
      def self.ports(show, strand)
        [source(show, strand), channel(strand), strand.send_point, track(show, strand), strand.return_point]
      end

      # A strand from a bus or main starts at its card send; that is not a loose end.
      def self.mix?(ids) = ids[0].nil? && ids[1].nil? && !ids[2].nil?

      # The first rail shows what the desk calls its sources: a box's socket appears as the lane of its link.
      def self.source(show, strand)
        stage = strand.socket && show.channel_at(strand.channel)&.stage
        stage && strand.channel.right? ? stage.beside(1) : stage
      end

      def self.channel(strand) = strand.channel&.channel? ? strand.channel : nil

      def self.track(show, strand) = strand.track && show.tracks[strand.track].points("in")[strand.track_lane]
      private_class_method :source, :channel, :track
    end
  end
end
