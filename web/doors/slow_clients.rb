# frozen_string_literal: true

require "puma"
require "puma/client"

module Loomshuttle
  module Web
    # Puma limits the time between two bytes of a request. This also limits the time for the whole request, and the number of unfinished requests
    # from one address, so that a client that trickles bytes blocks nobody.
    module SlowClients
      # Seconds for the head, and for the body. A body gets one more second per BYTES_A_SECOND of its announced length, or UNKNOWN without one.
      HEAD, BODY, BYTES_A_SECOND, UNKNOWN = 20, 30, 64 << 10, 3600
      # Unfinished requests allowed from one address.
      MOST = 64

      @waiting = Hash.new { |hash, address| hash[address] = {}.compare_by_identity }
      @lock = Mutex.new # held for moments

      class << self
        # @return [Boolean] whether that is one too many for this address
        def wait(client, address) = @lock.synchronize { @waiting[address].store(client, true) && @waiting[address].size > MOST }

        def forget(client, address)
          @lock.synchronize do
            @waiting[address].delete(client)
            @waiting.delete(address) if @waiting[address].empty?
          end
        end

        # @return [Integer] requests still being received
        def size = @lock.synchronize { @waiting.each_value.sum(&:size) }
      end

      # What Puma calls while it waits, when a request is whole, and at the end.
      module Client
        def set_timeout(seconds)
          now = Runtime::Clock.now
          @loomshuttle_began ||= now
          left = @loomshuttle_began + loomshuttle_limit - now
          super([SlowClients.wait(self, loomshuttle_address) ? 0 : seconds, left].min.clamp(0, seconds))
        end

        def try_to_finish = super.tap { |whole| loomshuttle_over if whole }

        def reset
          loomshuttle_over
          super
        end

        def close
          loomshuttle_over
          super
        end

        private

        def loomshuttle_over
          @loomshuttle_began = nil
          SlowClients.forget(self, loomshuttle_address)
        end

        # Between two requests of one connection nothing is on its way.
        def loomshuttle_limit
          return HEAD if @read_header || @read_header.nil?

          announced = env && env["CONTENT_LENGTH"]
          HEAD + (announced ? BODY + (announced.to_i / BYTES_A_SECOND) : UNKNOWN)
        end

        def loomshuttle_address
          @loomshuttle_address ||= peerip.to_s
        rescue SystemCallError, IOError
          @loomshuttle_address = ""
        end
      end

      # Adds it to Puma's own class.
      def self.install = (Puma::Client.prepend(Client) unless Puma::Client < Client)
    end
  end
end
