# frozen_string_literal: true

require "socket"
require "monitor"
require "io/wait"

module Loomshuttle
  module Web
    module Desk
      # The line to the desk: OSC over UDP with answers by number, repeated when one is lost. Its one thread receives,
      # renews subscriptions, and keeps a mirror of the desk's settings; requests come from any thread.
      class Link
        TRIES = 4
        WAIT = 0.25
        RENEW = 3
        SUBSCRIPTION = 10

        # The desk refused a setting, or did not answer.
        class Failed < StandardError; end

        # @param port [Integer] the desk's OSC port on this machine
        # @param addresses [Array<String>] settings to keep a mirror of
        # @param on_change [Proc] called when the mirror or the line has changed
        # @param on_meters [Proc] takes peaks and RMS in dBFS: channels in order, then mains
        def initialize(port, addresses:, on_change:, on_meters:)
          @socket = UDPSocket.new
          @socket.connect("127.0.0.1", port)
          @addresses, @on_change, @on_meters = addresses, on_change, on_meters
          @mirror = {}
          @waiting = {}
          @lock = Monitor.new
          @number = 0
          @up = false
        end

        # @return [Boolean] whether the desk answers and its settings are known
        attr_reader :up
        alias up? up

        # @return [Hash{String=>Object}] what the desk was last known to be set to
        def mirror = @lock.synchronize { @mirror.dup }

        def start
          @receiver = Thread.new { receive until @stopped }
          @keeper = Thread.new { keep until @stopped }
          [@receiver, @keeper].each { |thread| thread.report_on_exception = true }
        end

        def stop
          @stopped = true
          [@keeper, @receiver].each { |thread| thread&.join(1) || thread&.kill }
          @socket.close
        end

        # Sets and reads back until equal.
        # @raise [Failed] saying why not
        def set(address, value)
          kept = request("/set", address, value)
          kept = request("/get", address) unless same?(kept, value)
          raise Failed, "The desk keeps #{kept.inspect} for #{address} instead of #{value.inspect}." unless same?(kept, value)

          @lock.synchronize { @mirror[address] = kept }
        end

        # @return [Object] an address's value
        # @raise [Failed]
        def get(address) = request("/get", address)

        def same?(one, other) = one.is_a?(Float) && other.is_a?(Numeric) ? (one - other).abs < 0.005 : one == other

        private

        def request(verb, address, *rest)
          number = @lock.synchronize { @number += 1 }
          queue = Queue.new
          @lock.synchronize { @waiting[number] = queue }
          bytes = Formats::Osc.pack(verb, number, address, *rest)
          answer = nil
          TRIES.times do
            say(bytes)
            break if (answer = pop(queue))
          end
          raise Failed, "The desk does not answer (#{address})." unless answer
          raise Failed, "The desk refuses #{address}: #{answer.arguments.last}." if answer.address == "/refused"

          answer.arguments.last
        ensure
          @lock.synchronize { @waiting.delete(number) }
        end

        # Queue#pop has no time limit in Ruby 3.1.
        def pop(queue)
          deadline = now + WAIT
          sleep(0.001) while queue.empty? && now < deadline
          queue.empty? ? nil : queue.pop
        end

        def say(bytes)
          @socket.send(bytes, 0)
        rescue SystemCallError
          nil # the desk is not there; the missing answer tells
        end

        def receive
          return unless @socket.wait_readable(0.2)

          Formats::Osc.unpack(@socket.recv(65_536)).each { |message| take(message) }
        rescue Formats::Osc::Malformed, SystemCallError
          sleep(0.02) # the port is closed: the desk is away
        end

        def take(message)
          case message.address
          when "/meters" then meters(message.arguments)
          when "/changed" then changed(*message.arguments[1..2])
          when "/value", "/refused" then @lock.synchronize { @waiting[message.arguments.first] }&.push(message)
          end
        end

        def meters(arguments)
          levels = arguments[1].unpack("s>*").map { |level| level / 100.0 }
          peaks, rms = levels.each_slice(2).to_a.transpose
          @on_meters.call(peaks, rms)
        end

        def changed(address, value)
          @lock.synchronize { @mirror[address] = value }
          @on_change.call
        end

        # Subscribes anew in time, and looks whether it is still the same desk.
        def keep
          session = request("/get", "session")
          %w[changes meters].each { |what| request("/subscribe", what, SUBSCRIPTION) }
          read_all unless @up && session == @session
          @session = session
          raise_flag(true)
          nap(RENEW)
        rescue Failed
          raise_flag(false)
          nap(0.5)
        end

        def read_all
          values = @addresses.to_h { |address| [address, request("/get", address)] }
          @lock.synchronize { @mirror = values }
        end

        def raise_flag(state)
          return if state == @up

          @up = state
          @on_change.call
        end

        def nap(seconds)
          deadline = now + seconds
          sleep(0.05) until @stopped || now >= deadline
        end

        def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)
      end
    end
  end
end
