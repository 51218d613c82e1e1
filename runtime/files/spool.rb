# frozen_string_literal: true

require "fileutils"

module Loomshuttle
  module Runtime
    # Temporary files of a process: below the home folder, whose disk is watched, and not in the system's folder, which may be small and in memory.
    # Files of killed processes are deleted.
    module Spool
      # @param home [String]   @param name [String] of the process
      def self.use(home, name)
        folder = File.join(File.expand_path(home), "spool", name)
        FileUtils.rm_rf(folder)
        FileUtils.mkdir_p(folder, mode: 0o700)
        ENV["TMPDIR"] = folder
      end
    end
  end
end
