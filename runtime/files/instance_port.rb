# frozen_string_literal: true

module Loomshuttle
  module Runtime
    # The web port of the instance in a home folder, kept there so that the command line finds it and the next start takes it again.
    module InstancePort
      FILE = "port"
      DEFAULT = 4040

      # @param home [String]
      # @return [Integer] port of the last start; DEFAULT before the first
      def self.of(home)
        Integer(File.read(File.join(home, FILE), 16).strip, 10)
      rescue SystemCallError, ArgumentError
        DEFAULT
      end

      # @raise [SystemCallError]
      def self.keep(home, port) = File.write(File.join(home, FILE), port.to_s)
    end
  end
end
