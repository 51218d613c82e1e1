# frozen_string_literal: true

require "puma"
require "puma/client"

module Loomshuttle
  module Web
    # Puma gives whoever sends a request so long for the next byte; this gives them so long for the whole of it as well, and one address so
    # many requests that are still on their way. Somebody who sends a byte now and then holds nobody up.
    module SlowClients
      # Seconds for a head, and for a body; a body has a second more for each so many bytes that it announces, or an hour where it does not.
      HEAD, BODY, BYTES_A_SECOND, UNKNOWN = 20, 30, 64 << 10, 3600
      # Requests on their way from one address.
      MOST = 64

      @waiting = Hash.new { |hash, address| hash[address] = {}.compare_by_identity }
      @lock = Mutex.new # held for moments

      class << self
        # @return [Boolean] whether it is one too many
        def wait(client, address) = @lock.synchronize { @waiting[address].store(client, true) && @waiting[address].size > MOST }

        def forget(client, address)
          @lock.synchronize do
            @waiting[address].delete(client)
            @waiting.delete(address) if @waiting[address].empty?
          end
        end

        # @return [Integer] requests on their way
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

      # Puts it before Puma's own.
      def self.install = (Puma::Client.prepend(Client) unless Puma::Client < Client)
    end
  end
end
