# frozen_string_literal: true

module Loomshuttle
  module Delivery
    # Remarks about an imported recording: how it will be processed, and what does not fit.
    class Remarks
      # Trailing silence, or sides of different length, is reported from this much on (seconds).
      SILENCE, SIDES = 0.5, 0.01

      # @param item [Plan::Item]   @param target [Matching::Target, nil]   @param rate [Integer] of the show
      def initialize(item, target, rate)
        @item, @target, @rate = item, target, rate
        @recording, @pieces = item.recording, item.recording.pieces
      end

      # @param longest [Integer] end of the longest recording, in frames   @param usual [Integer, nil] where most recordings end
      # @return [Array<String>]
      def notes(longest, usual)
        [rates, @pieces.size > 1 ? "#{@pieces.size} parts are joined" : nil, sides, wide, @target.nil? ? "no track has this name" : nil,
         @target && @item.score < Matching::SURE ? "guessed: please check" : nil, silence(longest, usual)].compact
      end

      # @param usual [Integer, nil] frame at which most recordings end
      # @return [Array<String>] sentences that name the recording
      def warnings(usual)
        [width, apart, mixed, missing, ends_apart(usual)].compact
      end

      # @param timed [Boolean] whether some of the delivery tell their time
      # @return [Array<String>] how it was placed, where not all tell their time
      def time(timed)
        return [] if !timed || @recording.begins(@rate) || @item.offset.positive?

        ["no time in the file: starts with the first"]
      end

      private

      def rates
        others = @recording.sounds.map(&:rate).uniq - [@rate]
        "#{others.map { |rate| "#{rate / 1000.0} kHz" }.join(' and ')} becomes #{@rate / 1000.0} kHz" if others.any?
      end

      def sides
        return "left and right become one stereo recording" if @pieces.any? { |piece| piece.size > 1 }

        lane = @pieces.first.first.lane or return
        place = @recording.first.lanes == 2 ? "the #{%w[left right][lane]} side" : "channel #{lane + 1}"
        "#{place} of #{@recording.first.file}"
      end

      def wide
        most = @pieces.flatten(1).map(&:lanes).max
        "the first two of #{most} channels are used" if most > 2
      end

      # Of those that end with most of the others nothing is to be said: the one that goes on has its warning.
      def silence(longest, usual)
        ends = @item.offset + @item.frames
        return if usual && (usual - ends).abs < @rate * SILENCE

        "ends #{seconds(longest - ends)} before the longest; silence follows" if longest - ends >= @rate * SILENCE
      end

      def seconds(frames) = "#{format('%.1f', frames / @rate.to_f)} s"

      def width
        return if @target.nil? || @target.lanes == @item.lanes
        return "#{@item.title} is mono, and track #{@target.number} #{@target.title} is stereo: it would play on the left alone." if @item.lanes == 1

        "#{@item.title} is stereo, and track #{@target.number} #{@target.title} is mono: its right side would not play. Split it, or choose another track."
      end

      def apart
        @pieces.each do |piece|
          lengths = piece.map { |source| source.sound.frames / source.sound.rate.to_f }
          return "Left and right of #{@item.title} differ in length by #{format('%.2f', lengths.max - lengths.min)} s." if lengths.max - lengths.min > SIDES
        end
        nil
      end

      def mixed
        kinds = @pieces.map { |piece| piece.sum(&:lanes).clamp(1, 2) }.uniq
        "Parts of #{@item.title} are mono and stereo; all become stereo." if kinds.size > 1
      end

      def missing
        numbers = @pieces.filter_map { |piece| piece.first.sound.name.part }
        return if @pieces.size < 2 || numbers.size < @pieces.size || numbers != numbers.sort

        gone = (numbers.first..numbers.last).first(1000) - numbers
        "Part #{gone.join(', ')} of #{@item.title} is not there." if gone.any?
      end

      # What ends elsewhere than most do.
      def ends_apart(usual)
        apart = usual && (@item.offset + @item.frames - usual)
        "#{@item.title} ends #{seconds(apart.abs)} #{apart.positive? ? 'after' : 'before'} most of the others." if apart && apart.abs >= @rate
      end
    end
  end
end
