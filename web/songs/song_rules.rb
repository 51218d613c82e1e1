# frozen_string_literal: true

require "json"

module Loomshuttle
  module Web
    # What holds for all songs on this computer, kept in a file beside them: where each role goes, and which beats the click accents.
    class SongRules
      FILE = "library.json"
      ROLE = Shape.record({ "kind" => Shape.one_of(*Songs::Role::KINDS), "outputs" => Shape.list(Shape.whole(1..Settings::PlaybackKinds::OUTPUTS), most: 2) })
      SHAPE = Shape.record({ "roles" => Shape.map(ROLE, most: 500) }, { "accents" => Songs::SongFile::ACCENTS })

      # @param folder [String] of all songs
      def initialize(folder)
        @path = File.join(folder, FILE)
        @lock = Mutex.new # held while the file is written
      end

      # @return [Hash{String=>Hash}] role => "kind" and "outputs"
      def roles = read["roles"]

      # @return [Hash{String=>Array<Integer>}] time signature => accented beats of new songs
      def accents = read.fetch("accents", {})

      # @param roles [Hash{String=>Hash}] others stay as they are
      def keep_roles(roles) = keep { |rules| rules.merge("roles" => rules["roles"].merge(roles)) }

      # @param accents [Hash{String=>Array<Integer>}] other time signatures stay as they are
      # @raise [Invalid] if a beat is not in its bar
      def keep_accents(accents)
        accents.each { |meter, beats| Timing::Click.new(Timing::TempoMap.plain(120, meter, rate: 48_000), accents: { meter => beats }) }
        keep { |rules| rules.merge("accents" => rules.fetch("accents", {}).merge(accents)) }
      end

      # The roles that a song needs, for Steps::AddSong.
      # @param song [Songs::Song]
      # @return [Array<Hash>] name, kind and outputs
      def roles_of(song)
        known = roles
        names = song.stems.map(&:role) + (song.click.on && song.click.stem.nil? ? ["Click"] : []) + (song.guide.on ? ["Guide"] : [])
        names.uniq.map { |name| { "name" => name, "kind" => known.dig(name, "kind") || Songs::Role.kind_of(name), "outputs" => known.dig(name, "outputs") || [] } }
      end

      private

      def read
        SHAPE.check(Runtime::Files.read_json(@path), FILE)
      rescue SystemCallError, Invalid
        { "roles" => {} }
      end

      def keep = @lock.synchronize { Runtime::Files.replace(@path, JSON.pretty_generate(SHAPE.check(yield(read), FILE))) }
    end
  end
end
