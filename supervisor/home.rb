# frozen_string_literal: true

require "fileutils"

module Loomshuttle
  module Supervisor
    # The home folder of an instance: its user's alone. As root, PostgreSQL's user may walk through it to its own folder, and see nothing.
    class Home
      LEAST_FREE = 300 * 1024 * 1024
      # What nobody else may look into.
      FOLDERS = %w[logs takes songs jobs deliveries aside].freeze

      attr_reader :path

      # @param path [String] absolute
      def initialize(path)
        @path = path
      end

      # @raise [Failed] if it cannot be used
      def prepare
        FileUtils.mkdir_p([@path, *FOLDERS.map { |name| File.join(@path, name) }])
        FOLDERS.each { |name| File.chmod(0o700, File.join(@path, name)) }
        Process.uid.zero? ? let_postgres_through : File.chmod(0o700, @path)
        free = Runtime::FreeBytes.of(@path)
        raise Failed, "The disk of #{@path} is full: #{free / 1_048_576} MB are free, 300 MB are needed. Free some, or choose another --home." if free && free < LEAST_FREE
      rescue SystemCallError => e
        raise Failed, "The home folder #{@path} cannot be used: #{e.message}."
      end

      # Allows one instance per home, because a second one would share its files.
      # @raise [Failed]
      def lock
        @lock = File.open(File.join(@path, "lock"), File::RDWR | File::CREAT, 0o600)
        raise Failed, "Loomshuttle runs already with the home #{@path}; use that one, or choose another --home and --port." unless @lock.flock(File::LOCK_EX | File::LOCK_NB)
      end

      private

      def let_postgres_through
        FileUtils.chown(nil, "postgres", @path)
        File.chmod(0o710, @path)
      rescue ArgumentError
        raise Failed, "PostgreSQL's user is missing; install the Debian package postgresql."
      end
    end
  end
end
