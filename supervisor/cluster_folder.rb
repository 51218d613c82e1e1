# frozen_string_literal: true

require "digest"
require "etc"
require "fileutils"

module Loomshuttle
  module Supervisor
    # Where the database cluster of a home folder lies. PostgreSQL refuses to run as root, so root runs it as another user. Where that user
    # cannot enter the home folder, as inside root's own closed home, the cluster lies below OUTSIDE, and a note in the home says where.
    class ClusterFolder
      OUTSIDE = "/var/lib/loomshuttle"
      # In the home folder: the path of a cluster that lies outside it.
      NOTE = "postgres.folder"
      # In the cluster's folder, once it is complete, and the home that it belongs to.
      MADE, OWNER = "made", "home"

      # @param home [String] absolute
      # @param outside [String] folder for clusters that cannot lie in the home
      def initialize(home, outside: OUTSIDE)
        @home, @outside = home, outside
        @inside = File.join(home, "postgres")
        @note = File.join(home, NOTE)
      end

      # @return [String] the folder, even if there is no cluster in it yet
      def path = @path || noted || @inside

      # @return [Boolean] whether it holds a complete cluster
      def made? = File.exist?(File.join(path, MADE))

      # Creates or finds the folder where the server's user can reach it. A cluster that has become unreachable is moved.
      # @return [String] its path
      # @raise [Failed]
      def prepare
        @path = noted || @inside
        FileUtils.mkdir_p(@path) unless made?
        lend(@path) unless made?
        reachable? ? own : go_outside
        @path
      rescue SystemCallError => e
        raise Failed, "The database folder cannot be made: #{e.message}."
      end

      # @return [String] the user that PostgreSQL runs as
      def user
        return Etc.getpwuid.name unless Process.uid.zero?

        data = File.join(path, "data")
        owner = File.exist?(data) ? File.stat(data).uid : 0
        owner.zero? ? "postgres" : Etc.getpwuid(owner).name
      rescue ArgumentError # an owner without a name, as on a disk of another machine
        "postgres"
      end

      # Makes PostgreSQL's user the owner of a path.
      def lend(path) = (FileUtils.chown(user, nil, path) if Process.uid.zero?)

      private

      # The note of a home that was copied names the cluster of the original: the copy gets its own.
      def noted
        folder = File.read(@note).strip
        unless File.directory?(folder)
          raise Failed,
                "The database of #{@home} was in #{folder}, which is missing. Restore that folder, or delete #{@note} to start with the demo shows."
        end

        owner = File.read(File.join(folder, OWNER)).strip
        folder if owner == @home || !File.exist?(File.join(owner, NOTE)) # the home has moved
      rescue Errno::ENOENT
        nil
      end

      # A home that has moved is its owner from now on.
      def own = (Runtime::Files.replace(File.join(@path, OWNER), @home) unless @path == @inside)

      def reachable? = !Process.uid.zero? || system("runuser", "-u", user, "--", "test", "-w", @path, chdir: "/", out: File::NULL, err: File::NULL)

      def go_outside
        from = @path
        FileUtils.mkdir_p(@outside)
        File.chmod(0o755, @outside)
        @path = File.join(@outside, Digest::SHA256.hexdigest("#{@home} #{Time.now.to_f} #{Process.pid}")[0, 16])
        File.exist?(File.join(from, MADE)) ? FileUtils.mv(from, @path) : make_outside(from)
        own
        Runtime::Files.replace(@note, @path)
        raise Failed, "The user #{user} cannot enter #{@path}. Choose another home folder with --home, such as /var/tmp/loomshuttle." unless reachable?
      end

      def make_outside(from)
        FileUtils.rm_rf(from)
        Dir.mkdir(@path, 0o700)
        lend(@path)
      end
    end
  end
end
