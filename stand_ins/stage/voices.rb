# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module StandIns
    module Stage
      # Renders a player's sound: one array of samples, peak 1.0 before its level, the same for the same seed.
      class Voices
        A4 = 440.0

        # @param frames [Integer] length
        # @param rate [Integer] samples a second
        # @param seed [Integer]
        def initialize(frames:, rate:, seed:)
          @frames = frames
          @rate = rate
          @random = Random.new(seed)
        end

        # @param player [Players::Player]
        # @return [Numo::SFloat] [frames]
        def render(player)
          sound = send(player.voice, **player.figures)
          top = [sound.max, -sound.min].max
          Numo::SFloat.cast(top.zero? ? sound : sound * (Audio::Level.amplitude(player.level) / top))
        end

        private

        # Notes drawn from a few pitches, each with attack and decay; accents make its meter recognisable.
        def tone(notes:, beat:, hold:, partials:, detune: nil)
          sound = Numo::DFloat.zeros(@frames)
          played = Hash.new { |known, note| known[note] = note(frequency(note), partials, detune, (beat * @rate).to_i * hold) }
          each_beat(beat) do |from, _|
            note = played[notes[@random.rand(notes.size)]]
            sound[from...(from + note.size)] = note * (0.45 + (0.55 * @random.rand))
          end
          sound
        end

        def note(pitch, partials, detune, size)
          sound = chord(pitch, partials, size.to_i)
          sound += chord(pitch * detune, partials, sound.size) if detune
          sound * envelope(sound.size)
        end

        def chord(pitch, partials, size)
          time = Numo::DFloat.new(size).seq / @rate
          partials.each.with_index(1).sum { |weight, n| Numo::NMath.sin(time * (2 * Math::PI * pitch * n)) * weight }
        end

        def envelope(size)
          time = Numo::DFloat.new(size).seq / @rate
          (time * 60).clip(0, 1) * Numo::NMath.exp(time * -1.2) * ((time[-1] - time) * 80).clip(0, 1)
        end

        def drum(beat:, pitch:, decay:)
          sound = Numo::DFloat.zeros(@frames)
          time = Numo::DFloat.new((beat * @rate).to_i).seq / @rate
          skin, stick, ring = Numo::NMath.sin(time * (2 * Math::PI * pitch)), Numo::NMath.exp(time * -60), Numo::NMath.exp(time * -decay)
          each_beat(beat) do |from, length|
            next if @random.rand < 0.25

            sound[from...(from + length)] = (skin + (noise(length) * 0.5 * stick)) * ring * (0.5 + (0.5 * @random.rand))
          end
          sound
        end

        # Wind and water: noise, smoothed by a moving average, slowly swelling.
        def air(smooth:)
          total = noise(@frames + smooth).cumsum
          time = Numo::DFloat.new(@frames).seq / @rate
          (total[smooth..] - total[0...@frames]) * (1 + (0.4 * Numo::NMath.sin(time * 1.9)))
        end

        # A fault: mains hum with its harmonics, louder than what is played.
        def hum(mains:, notes:, beat:)
          time = Numo::DFloat.new(@frames).seq / @rate
          buzz = [1, 0.7, 0.5, 0.35].each.with_index(1).sum { |weight, n| Numo::NMath.sin(time * (2 * Math::PI * mains * n)) * weight }
          buzz + (tone(notes: notes, beat: beat, hold: 0.9, partials: [1, 0.6]) * 0.3)
        end

        def silence = Numo::DFloat.zeros(@frames)

        def each_beat(beat)
          length = (beat * @rate).to_i
          (0..(@frames - length)).step(length) { |from| yield from, length }
        end

        # Ruby's own generator keeps it the same on every machine.
        def noise(size) = (Numo::DFloat.cast(Numo::Int16.from_binary(@random.bytes(size * 2))) / 32_768)

        def frequency(note) = A4 * (2**((note - 69) / 12.0))
      end
    end
  end
end
