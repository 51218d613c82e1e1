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
        # @return [Boolean] whether the song is as it is
        def plain?(tempo, key) = tempo == 100 && key.zero?

        # @param frames [Integer] of the song as it is
        # @return [Integer] as it goes
        def frames(frames, tempo) = Rational(frames * 100, tempo).round

        # @param data [Hash] as SongFile gives it
        # @return [Hash] likewise; the files of its stems are those that are made ahead
        # @raise [Invalid] when it would be out of bounds
        def data(data, tempo, key)
          return data if plain?(tempo, key)

          whole = frames(data["frames"], tempo)
          varied = data.merge("frames" => whole, "start" => frames(data["start"], tempo), "tempos" => data["tempos"].map { |one| one.merge("bpm" => bpm(one["bpm"], tempo)) },
                              "sections" => data["sections"].map { |one| one.merge("shift" => frames(one["shift"], tempo)) })
          varied.merge("stems" => data["stems"].map { |stem| stem.merge("file" => file(stem, tempo, key), "frames" => [frames(stem["frames"], tempo), whole].min) })
        end

        # @param stem [Hash]
        # @return [String] its file, below the song's folder. Named by what it was made of, so that one that was exchanged is made again
        def file(stem, tempo, key) = File.join(FOLDER, "#{tempo} #{semitones(stem, key)}", "#{stem['sum'][0, 32]}.wav")

        # @param stem [Hash] role and name
        # @return [Integer] by how much it is transposed
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
