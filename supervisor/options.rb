# frozen_string_literal: true

require "optparse"

module Loomshuttle
  module Supervisor
    # The command line of bin/demo.
    module Options
      # @return [Hash] :port (nil for the first free one), :home (absolute) and :beside
      # @raise [Failed] for an unknown option
      def self.parse(arguments)
        found = { port: nil, home: File.join(ROOT, "var") }
        OptionParser.new do |parser|
          parser.banner = "bin/demo [--port N] [--home DIR] [--beside N]: starts Loomshuttle with the demo show"
          parser.on("--port N", Integer, "port of the screens; the next 40 are used too (from 4040 on, the first free ones)") { |port| found[:port] = port }
          parser.on("--beside N", Integer, "play to the playback interface of the instance on that port, as its second computer") { |port| found[:beside] = port }
          parser.on("--home DIR", "folder for database, takes and logs (var/)") { |home| found[:home] = File.expand_path(home) }
        end.parse!(arguments.dup)
        found
      rescue OptionParser::ParseError => e
        raise Failed, "#{e.message}; bin/demo knows --port N, --home DIR and --beside N."
      end
    end
  end
end
