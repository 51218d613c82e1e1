# frozen_string_literal: true

require "digest"

module Loomshuttle
  module Web
    # Compares each file of each song with its checksum, once after the start and once when a song is new. Its thread:
    #   checks songs   reads the files
    class SongChecksums
      # @param songs [Proc] returns all songs (Array<SongEntry>)
      # @param on_damage [Proc] called with an entry and the names of its damaged stems (possibly none)
      def initialize(songs, on_damage:)
        @songs, @on_damage = songs, on_damage
        @checked = {}
        @lock = Mutex.new # held for moments
        @wake = Runtime::Wakeup.new
      end

      def start
        @worker = Runtime::Worker.start("checks songs", priority: Runtime::Worker::PATIENT) { |worker| check_next || @wake.wait(2) || worker.rest(0) }
      end

      def stop
        @wake.wake
        @worker&.stop
      end

      # Notes that there may be a new song.
      def look = @wake.wake

      # @param id [String] of a song
      # @return [Array<String>] names of its damaged stems, as far as known
      def damaged(id) = @lock.synchronize { @checked.fetch(id, []) }

      # Forgets a song that is gone.
      def delete(id) = @lock.synchronize { @checked.delete(id) }

      private

      # @return [Boolean] whether there was a song to check
      def check_next
        entry = @songs.call.find { |one| one.data && !@lock.synchronize { @checked.key?(one.id) } } or return false
        damaged = entry.data["stems"].reject { |stem| whole?(File.join(entry.folder, stem["file"]), stem["sum"]) }.map { |stem| stem["name"] }
        @lock.synchronize { @checked[entry.id] = damaged }
        @on_damage.call(entry, damaged)
        true
      end

      def whole?(path, sum)
        Digest::SHA256.file(path).hexdigest == sum
      rescue SystemCallError
        false
      end
    end
  end
end
