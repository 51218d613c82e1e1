# frozen_string_literal: true

require "logger"

module Loomshuttle
  # What all processes of the application share, whatever they do: telling, threads, files, other programs. No sound, no rules, no network.
  module Runtime
    # One way of telling what happens, for all processes: a line with time, level, process and words, in a file of bounded size.
    module Log
      # Files kept of one process, and bytes of each.
      KEPT = 4
      BYTES = 1 << 20

      # Standard error as it is now, so that tests can look at it.
      module Stderr
        def self.write(text) = $stderr.write(text)
        def self.close = nil
      end

      class << self
        # Logs to a file from now on.
        # @param folder [String] of the logs   @param part [String] name of the process
        def open(folder, part)
          @log = logger(File.join(folder, "#{part}.log"), part)
        end

        # @return [Logger] to standard error until a file is opened
        def now
          @log ||= logger(Stderr, "loomshuttle")
          @log
        end

        # @param error [Exception]   @param where [String] what the program was doing
        def surprise(error, where) = now.error("#{where}: #{error.full_message(highlight: false, order: :top)[0, 4000].strip}")

        private

        def logger(target, part)
          ::Logger.new(target, KEPT, BYTES, progname: part, formatter: method(:line)).tap { |log| log.level = ::Logger::INFO }
        end

        def line(level, time, part, words) = "#{time.strftime('%Y-%m-%dT%H:%M:%S.%L%:z')} #{level.ljust(5)} #{part}[#{Process.pid}] #{words}\n"
      end
    end
  end
end
