# frozen_string_literal: true

module Loomshuttle
  module Runtime
    # Passes the gem paths that Bundler found on to the Ruby processes that this one starts. Finding them again would cost each half a second.
    module GemPaths
      STANDARD = RbConfig::CONFIG.values_at("rubylibdir", "rubyarchdir", "sitelibdir", "sitearchdir", "sitedir", "vendorlibdir", "vendorarchdir", "vendordir").freeze
      BUNDLER = %r{\A-r.*bundler/setup\z}
      private_constant :STANDARD, :BUNDLER

      # @return [Hash{String=>String}] environment for a child process; empty without Bundler, or if it is set already
      def self.environment
        options = ENV.fetch("RUBYOPT", "").split
        return {} unless options.any?(BUNDLER)

        { "RUBYOPT" => options.grep_v(BUNDLER).join(" "), "RUBYLIB" => ($LOAD_PATH.map(&:to_s) - STANDARD).uniq.join(File::PATH_SEPARATOR) }
      end
    end
  end
end
