# frozen_string_literal: true

require "fileutils"
require "forwardable"
require "json"
require "monitor"

module Loomshuttle
  module Web
    # The songs on this computer, each in its folder (docs/formats.md): listed, changed with undo, taken over from the porter, deleted. A song that
    # cannot be read does not hide others. Rules for all songs are in SongRules, checksums in SongChecksums.
    class SongLibrary
      extend Forwardable
      include Enumerable

      # States of a song that are kept, to go back to; and tempos and keys whose parts are: older ones are made again when they are wanted.
      KEPT, VARIED = 100, 12
      # @param root [String] folder of all songs   @param on_change [Proc] called when songs appeared, changed or vanished
      def initialize(root, on_change:)
        @root, @on_change = File.expand_path(root), on_change
        FileUtils.mkdir_p(@root, mode: 0o700)
        @entries, @stamps = {}, {}
        @lock = Monitor.new # held while folders are looked at and while a song is written; asks nobody
        @rules = SongRules.new(@root)
        @checksums = SongChecksums.new(method(:all), on_damage: method(:found_damaged))
      end

      def_delegators :@rules, :roles, :accents, :keep_roles, :keep_accents, :roles_of
      def_delegators :@checksums, :start, :stop

      # @return [Array<SongEntry>] by name; unreadable ones last
      def all
        @lock.synchronize do
          folders = Dir.children(@root).grep(Songs::SongFile::ID)
          (@entries.keys - folders).each { |id| [@entries, @stamps, @checksums].each { |kept| kept.delete(id) } }
          folders.filter_map { |id| entry(id) }.sort_by { |one| [one.data ? 0 : 1, one.data ? one.data["name"].downcase : one.id] }
        end
      end

      def each(&) = all.each(&)

      # @return [SongEntry] a readable song
      # @raise [Invalid]
      def fetch(id)
        found = @lock.synchronize { id.to_s.match?(Songs::SongFile::ID) && Dir.exist?(File.join(@root, id)) && entry(id) }
        raise Invalid.new("There is no such song in this computer's library.", where: "song") unless found
        raise Invalid.new("The song cannot be read. #{found.problem}", where: "song") unless found.data

        found
      end

      # @param version [Integer] that the person has seen   @param changes [Hash] as in Songs::SongFile::CHANGES
      # @return [SongEntry]
      # @raise [Invalid] if the result would not be a valid song   @raise [Stale]
      def change(id, version, changes)
        @lock.synchronize do
          known = fetch(id)
          same(known, version)
          checked = Songs::SongFile::CHANGES.check(changes, "changes")
          same_files(known.data, checked["stems"]) if checked["stems"]
          write(known, Songs::SongFile.check(known.data.merge(checked, "version" => version + 1)))
        end.tap { @on_change.call }
      end

      # Reverts a song's last change.
      # @raise [Invalid] if there is nothing to revert   @raise [Stale]
      def undo(id, version)
        @lock.synchronize do
          known = fetch(id)
          same(known, version)
          before = history(known).max_by { |path| File.basename(path).to_i } or raise Invalid.new("#{known.data['name']} has no changes to undo.", where: "song")
          data = Songs::SongFile.check(JSON.parse(File.read(before)))
          replace(known, data.merge("version" => version + 1))
          FileUtils.rm_f(before)
        end
        @on_change.call
        fetch(id)
      end

      # Moves a song that the porter has made into the library.
      # @param job [Hash]
      def take_over(job)
        data = Songs::SongFile.read(job["result"])
        target = File.join(@root, data["id"])
        @lock.synchronize do
          next if Dir.exist?(target)

          Runtime::Files.move(job["result"], target)
          counted = data.merge("click" => data["click"].merge("accents" => accents.slice(*data["meters"].map { |one| one["meter"] }).merge(data["click"]["accents"])))
          Runtime::Files.replace(File.join(target, Songs::SongFile::FILE), Songs::SongFile.dump(counted)) unless counted == data
        end
        @checksums.look
        @on_change.call
      end

      # Moves stems that the porter has prepared at another tempo or key into their song's folder.
      # @param job [Hash]
      # @raise [Invalid] if the song no longer exists
      def keep_stems(job)
        folder = fetch(File.basename(job["song"])).folder
        Dir.glob("*/*.wav", base: File.join(job["result"], Songs::Varied::FOLDER)).each do |file|
          target = File.join(folder, Songs::Varied::FOLDER, file)
          FileUtils.mkdir_p(File.dirname(target))
          Runtime::Files.move(File.join(job["result"], Songs::Varied::FOLDER, file), target)
        end
        Runtime::Files.matching(File.join(folder, Songs::Varied::FOLDER), "*").sort_by { |path| File.mtime(path) }.reverse.drop(VARIED).each { |path| FileUtils.rm_rf(path) }
        FileUtils.rm_rf(job["result"])
        @on_change.call
      end

      def delete(id)
        entry = @lock.synchronize { all.find { |one| one.id == id } } or raise Invalid.new("There is no such song in this computer's library.", where: "song")
        FileUtils.rm_rf(entry.folder)
        @on_change.call
      end

      # A song in the form of a take manifest, for Waveform.
      # @return [Hash]
      def self.like_a_take(data, folder)
        { "folder" => folder, "rate" => data["rate"], "frames" => data["frames"], "number" => data["name"], "overview" => { "file" => "overview.u8", "frames" => 2400 },
          "tracks" => data["stems"].map { |stem| { "number" => stem["id"], "file" => stem["file"] } } }
      end

      private

      def same(known, version)
        raise Stale, "#{known.data['name']} was changed by someone else; look at it again." unless known.data["version"] == version
      end

      # Files are the song's: they are neither invented nor exchanged.
      def same_files(data, stems)
        files = data["stems"].to_h { |stem| [stem["id"], stem.values_at("file", "lanes", "frames", "sum")] }
        strange = stems.find { |stem| files[stem["id"]] != stem.values_at("file", "lanes", "frames", "sum") }
        raise Invalid.new("#{strange['name']} is not a file of this song.", where: "stems") if strange
      end

      def entry(id)
        folder = File.join(@root, id)
        stamp = File.mtime(File.join(folder, Songs::SongFile::FILE))
        return @entries[id] if @stamps[id] == stamp

        @stamps[id] = stamp
        @entries[id] = read(id, folder)
      rescue SystemCallError => e
        SongEntry.new(id, nil, folder, Text.readable(e.message, most: 200), [])
      end

      def read(id, folder)
        data = Songs::SongFile.read(folder)
        raise Invalid.new("It is that of another song.", where: "id") unless data["id"] == id

        missing = data["stems"].reject { |stem| File.file?(File.join(folder, stem["file"])) }
        SongEntry.new(id, data, folder, missing.empty? ? nil : "#{missing.map { |stem| stem['name'] }.join(', ')} missing", @checksums.damaged(id))
      rescue Invalid => e
        SongEntry.new(id, nil, folder, Text.readable(e.message, most: 200), [])
      end

      def history(known) = Runtime::Files.matching(File.join(known.folder, "before"), "*.json")

      def write(known, data)
        before = File.join(known.folder, "before")
        FileUtils.mkdir_p(before)
        Runtime::Files.replace(File.join(before, "#{known.data['version']}.json"), Songs::SongFile.dump(known.data))
        history(known).sort_by { |path| File.basename(path).to_i }.reverse.drop(KEPT).each { |path| FileUtils.rm_f(path) }
        replace(known, data)
        fetch(known.id)
      end

      def replace(known, data)
        Runtime::Files.replace(File.join(known.folder, Songs::SongFile::FILE), Songs::SongFile.dump(data))
        @stamps.delete(known.id)
      end

      # @param entry [SongEntry]   @param names [Array<String>]
      def found_damaged(entry, names)
        @lock.synchronize { entry.damaged = names }
        @on_change.call if names.any?
      end
    end
  end
end
