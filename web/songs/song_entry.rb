# frozen_string_literal: true

module Loomshuttle
  module Web
    # A song of the library: its data (Songs::SongFile), its folder, the reason why it cannot be played (or nil), and names of files that are damaged.
    SongEntry = Struct.new(:id, :data, :folder, :problem, :damaged) do
      def song = @song ||= Songs::SongFile.song(data)

      # @return [SongEntry] the song at another tempo or in another key
      # @raise [Invalid] if its tempo would be out of range
      def varied(tempo, key)
        return self if Songs::Varied.plain?(tempo, key)

        SongEntry.new(id, Songs::Varied.data(data, tempo, key), folder, problem, damaged)
      end

      # @return [Boolean] whether all its stem files exist
      def made? = data["stems"].all? { |stem| File.file?(File.join(folder, stem["file"])) }
    end
  end
end
