# frozen_string_literal: true

module Loomshuttle
  module Songs
    # A section of a song.
    #   key     its number in the song, which stays     bar     where it begins, from 1; the first one begins with the song
    #   shift   samples later than its bar              click   whether the click is heard in it
    #   words   what the guide says of it instead of its name, or ""
    Section = Value.define(:key, :name, :dye, :bar, :shift, :click, :words)

    class Section
      class << self
        # The bar and shift of a section that begins at a sample.
        # @param sample [Integer] of the song   @param song [Song]   @param near [Integer] samples within which it snaps to the bar
        # @return [Hash] "bar" (the nearest) and "shift" (samples), as in SongFile
        def place(sample, song, near: 0)
          bar = [song.map.place(song.map.quarter([sample - song.start, 0].max)).first.floor, 1].max
          bar += 1 if (begins(bar + 1, song) - sample).abs < (begins(bar, song) - sample).abs
          shift = sample - begins(bar, song)
          { "bar" => bar, "shift" => shift.abs <= near ? 0 : shift }
        end

        # Adds a section at a sample, or moves one there.
        # @param data [Hash] a song as in SongFile   @param sample [Integer]   @param key [Integer, nil] of the section to move
        # @param near [Integer] samples within which it snaps to the bar
        # @return [Array<Hash>] the song's sections, in order
        # @raise [Invalid]
        def at(data, sample, key: nil, near: 0)
          song = SongFile.song(data)
          sections = data["sections"].empty? ? [{ "key" => 1, "name" => "Start", "bar" => 1 }] : data["sections"]
          return moved(sections, key, place(sample, song, near: near)) if key

          fresh = sections.map { |one| one["key"] }.max + 1
          before = song.section_at(sample)
          here = { "key" => fresh, "name" => "Section #{fresh}", "dye" => before.dye, **place(sample, song, near: near) }
          behind = sections.index { |one| one["key"] == before.key } || 0
          [*sections[..behind], here, *sections[(behind + 1)..]]
        end

        private

        def moved(sections, key, place)
          raise Invalid.new("The song has no section #{key}.", where: "section") unless sections.any? { |one| one["key"] == key }

          sections.map { |one| one["key"] == key ? one.merge(place) : one }
        end

        def begins(bar, song) = song.start + song.map.sample(song.map.bar(bar))
      end
    end
  end
end
