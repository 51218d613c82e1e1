# frozen_string_literal: true

module Loomshuttle
  module Songs
    # A song at another tempo or in another key. Everything counted in samples is derived from the original song, so click, guide and sections are
    # exact to the sample and nothing is stored twice. Only the stems are rendered in advance (Porter::VarySong), in a folder of the song.
    module Varied
      # Percent of the song's own tempo; semitones.
      TEMPO, KEY = (70..140), (-6..6)
      FOLDER = "varied"
      # Roles without a key: they go faster, and stay as they sound (common practice, no published source).
      KEYLESS = /\b(?:drum\w*|perc\w*|kit|beats?|loops?|cymbals?|shaker|tambourine|claps?|fx|effects?)\b/i

      class << self
        # @param tempo [Integer]   @param key [Integer]
        # @return [Boolean] whether the song plays unchanged
        def plain?(tempo, key) = tempo == 100 && key.zero?

        # @param frames [Integer] at the original tempo   @param tempo [Integer] percent
        # @return [Integer] frames at the new tempo
        def frames(frames, tempo) = Rational(frames * 100, tempo).round

        # @param data [Hash] a song as in SongFile   @param tempo [Integer] percent   @param key [Integer] semitones up
        # @return [Hash] the same song at that tempo and key, with the stem files prepared for them
        # @raise [Invalid] if its tempo would be out of range
        def data(data, tempo, key)
          return data if plain?(tempo, key)

          whole = frames(data["frames"], tempo)
          varied = data.merge("frames" => whole, "start" => frames(data["start"], tempo), "tempos" => data["tempos"].map { |one| one.merge("bpm" => bpm(one["bpm"], tempo)) },
                              "sections" => data["sections"].map { |one| one.merge("shift" => frames(one["shift"], tempo)) })
          varied.merge("stems" => data["stems"].map { |stem| stem.merge("file" => file(stem, tempo, key), "frames" => [frames(stem["frames"], tempo), whole].min) })
        end

        # @param stem [Hash]
        # @return [String] path below the song's folder; it contains the stem's checksum, so a replaced stem is prepared again
        def file(stem, tempo, key) = File.join(FOLDER, "#{tempo} #{semitones(stem, key)}", "#{stem['sum'][0, 32]}.wav")

        # @param stem [Hash] role and name
        # @return [Integer] semitones by which the stem is transposed; 0 for click, guide and drums
        def semitones(stem, key) = Role.kind_of(stem["role"]) == "parts" && !stem["role"].match?(KEYLESS) ? key : 0

        # @return [String] "94 %, up 2"
        def words(tempo, key)
          turned = "#{key.positive? ? 'up' : 'down'} #{key.abs}" unless key.zero?
          [tempo == 100 ? nil : "#{tempo} %", turned].compact.join(", ")
        end

        private

        def bpm(figure, tempo)
          bpm = (Rational(figure.to_s) * tempo / 100).to_f.round(9)
          return bpm if Timing::TempoMap::BPM.cover?(bpm)

          raise Invalid.new("At #{tempo} % the tempo would be #{bpm.round(1)}; #{Timing::TempoMap::BPM.min} to #{Timing::TempoMap::BPM.max} can be played.", where: "tempo")
        end
      end
    end
  end
end
