# frozen_string_literal: true

module Loomshuttle
  module Supervisor
    # Which ports an instance gets: those that somebody named, or else those of its last start, or else the first free ones.
    module PortChoice
      # Distance between the port ranges of two instances, and how many ranges are tried.
      APART, TRIES = 40, 50

      # @param wanted [Integer, nil] the web's port, if given
      # @param home [String]
      # @return [Ports] free ones, saved for the next start and for the command line
      # @raise [Failed] if the given port, or every port, is in use
      def self.ports(wanted, home)
        ports = wanted ? checked(wanted) : first_free(home)
        Runtime::InstancePort.keep(home, ports.web)
        ports
      end

      def self.first_free(home)
        last = nil
        default = Runtime::InstancePort::DEFAULT
        [Runtime::InstancePort.of(home), *(0...TRIES).map { |n| default + (APART * n) }].uniq.each do |port|
          return checked(port)
        rescue Failed => e
          last = e
        end
        raise last
      end

      def self.checked(port) = Ports.new(web: port).tap { |ports| PortCheck.run(ports) }
      private_class_method :first_free, :checked
    end
  end
end
