# frozen_string_literal: true

module Loomshuttle
  module Web
    # Changes of songs that concern shows: a new role of a song comes into the open show, and a song that a show plays is not deleted.
    class SongEdits
      # @param control [Control]   @param songs [SongLibrary]   @param shows [Store::Shows]
      def initialize(control, songs, shows)
        @control, @songs, @shows = control, songs, shows
      end

      # @param version [Integer] that the person has seen   @param changes [Hash] as in Songs::SongFile::CHANGES
      # @return [SongEntry]
      # @raise [Invalid] @raise [Stale]
      def change_song(id, version, changes)
        @songs.change(id, version, changes).tap do |entry|
          show, roles = @control.seen.show, @songs.roles_of(entry.song)
          next unless show.setlist.values.any? { |item| item.song == id } && Steps::AddSong.roles(show, roles)

          @control.edit(version: nil, who: "the library") { |newest| Steps::AddSong.roles(newest, roles) || Settings::Edit.set("Roles", {}) }
        end
      end

      # @raise [Invalid] if a show has it in its running order
      def delete_song(id)
        shows = @shows.that_play(id)
        raise Invalid.new("It is in the running order of #{shows.join(', ')}. Remove it there first.", where: "song") if shows.any?

        @songs.delete(id)
        true
      end
    end
  end
end
