# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module Web
    # A click as 24-bit mono WAV, generated while it is sent. Its length is unlimited; it takes the memory of half a second.
    class ClickFlow < WavFlow
      # @param map [Timing::TempoMap]   @param click [Timing::Click]   @param bars [Integer]   @param sound [String] of Audio::ClickSounds
      # @raise [Invalid]
      def initialize(map, click, bars:, sound:)
        @map, @click, @bars = map, click, bars
        @sounds = Audio::ClickSounds::LEVEL.keys.to_h { |kind| [kind, Audio::ClickSounds.of(sound, kind, map.rate)] }
        @longest = @sounds.each_value.map(&:size).max
        super(frames: map.sample(map.bar(bars + 1)), rate: map.rate, lanes: 1, bits: 24)
      end

      private

      def block(at, size)
        sum = Numo::DFloat.zeros(size)
        sounding(at, size).each do |stroke|
          sound = @sounds.fetch(stroke.kind)
          first, last = [stroke.sample, at].max, [stroke.sample + sound.size, at + size].min
          sum[(first - at)...(last - at)] += sound[(first - stroke.sample)...(last - stroke.sample)] if last > first
        end
        Audio::Pcm24.to_wav(Numo::Int32.cast((sum * Audio::Pcm24::FULL_SCALE).round.clip(-Audio::Pcm24::FULL_SCALE, Audio::Pcm24::FULL_SCALE - 1)))
      end

      # Strokes that are heard there, also those that began before.
      def sounding(at, size)
        bar = [@map.place(@map.quarter([at - @longest, 0].max)).first.floor - 1, 1].max
        @click.strokes(bar..@bars).take_while { |stroke| stroke.sample < at + size }
      end
    end
  end
end
