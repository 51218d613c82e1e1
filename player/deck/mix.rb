# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module Player
    # A song's sound at each output: spans of it (Songs::Walk), summed by its feeds.
    class Mix
      # @param outputs [Integer] number of outputs
      def initialize(outputs)
        @outputs = outputs
      end

      # @return [Integer] blocks of a stem that were not there in time
      attr_reader :missed

      # @param material [Material]   @param spans [Array<Songs::Walk::Span>]
      # @param into [Numo::SFloat] [outputs, frames], added to   @param late [Integer] frame at which the spans begin
      def add(material, spans, into, late = 0)
        spans.each do |span|
          summed = span.whole? && add_sums(material, span, into, late + span.at)
          ramp = span.whole? ? nil : ramp(span)
          material.feeds.each do |source, feeds|
            next if summed && source.is_a?(Integer)

            heard = material.read(source, span.from, span.frames) { @missed = @missed.to_i + 1 } or next
            heard *= ramp if ramp
            feeds.each { |feed| Mix.feed_into(into, heard, feed, late + span.at) if feed.output <= @outputs }
          end
        end
      end

      # @param into [Numo::SFloat] [outputs, frames], added to   @param heard [Numo::SFloat] [frames, lanes] of the source
      # @param feed [Songs::Feed]   @param at [Integer] frame at which it begins
      def self.feed_into(into, heard, feed, at)
        lane = heard[true, feed.lane]
        lane *= feed.gain unless feed.gain == 1
        into[feed.output - 1, at...(at + heard.shape[0])].inplace + lane
      end

      private

      # @return [Boolean] whether all stems were at hand as one sum
      def add_sums(material, span, into, at)
        parts = material.sums.of(span.from, span.frames) or return false
        parts.each do |part|
          outputs, frames = part.shape
          outputs = [outputs, @outputs].min
          into[0...outputs, at...(at + frames)].inplace + part[0...outputs, true]
          at += frames
        end
        true
      end

      def ramp(span)
        (span.first + (Numo::SFloat.new(span.frames).seq * ((span.last - span.first) / span.frames))).expand_dims(1)
      end
    end
  end
end
