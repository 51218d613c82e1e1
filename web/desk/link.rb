# frozen_string_literal: true

require "socket"
require "monitor"
require "io/wait"

module Loomshuttle
  module Web
    module Desk
      # The line to the desk: OSC over UDP with answers by number, repeated when one is lost. Requests come from any thread, and each has
      # its end in time. Its threads:
      #   hears the desk       takes answers, changes and meters
      #   keeps the mirror     renews subscriptions, and looks whether anything was missed
      class Link
        TRIES = 6
        WAIT = 0.25
        # Seconds without any word, and the desk is away; meters come 20 a second. They are counted by who hears: where this whole machine stood
        # still, that is no silence of the desk's.
        SILENCE, HEARING = 0.8, 0.1
        # What is to be done waits so long (seconds) for a desk that has just gone.
        BRIEF = 2
        # Seconds between looks whether anything has changed that no word came of.
        LOOK = 0.4
        RENEW = 3
        # Changes that were made before a look are told by so many seconds after it, or were lost.
        GRACE = 0.2
        SUBSCRIPTION = 10

        # The desk refused a setting, or did not answer.
        class Failed < StandardError; end

        # Requests on their way at once.
        WINDOW = 200
        # One of many is sent again after so many seconds; a desk answers at its next step, in some 10 ms.
        AGAIN = 0.08
        # One of many on its way: when it was sent last, in seconds.
        Request = Struct.new(:address, :bytes, :sent)
        # Addresses that a desk has at most.
        MOST_ADDRESSES = 100_000
        # Many requests are given up when nothing at all has come back for this long: time for a desk to restart.
        PATIENCE = 15

        # @param port [Integer] the desk's OSC port on this machine
        # @param on_change [Proc] called when the mirror or the line has changed, with the address where it is a single value
        # @param on_meters [Proc] takes peaks and RMS in dBFS: channels in order, then mains and outputs
        def initialize(port, on_change:, on_meters:)
          @socket = UDPSocket.new
          @socket.connect("127.0.0.1", port)
          @on_change, @on_meters = on_change, on_meters
          @mirror = {}
          @waiting = {}
          @lock = Monitor.new # held for moments, never while an answer is waited for
          @looking = Monitor.new # held while all is read anew, so that this is done once; @lock may be taken within
          @number = @silent = 0
          @changes, @back = Runtime::Wakeup.new, Runtime::Wakeup.new
          @up = false
        end

        # @return [String, nil] id of the profile that the desk says it is, what hangs on its ports ("a 1 bramble-16", one box a
        #   line), and its number since its last start
        attr_reader :profile, :boxes, :session

        # @return [Boolean] whether the desk answers and its settings are known
        attr_reader :up
        alias up? up

        # @return [Hash{String=>Object}] what the desk was last known to be set to
        def mirror = @lock.synchronize { @mirror.dup }

        def start
          @workers = [Runtime::Worker.start("hears the desk") { receive }, Runtime::Worker.start("keeps the mirror") { |worker| keep(worker) }]
        end

        def stop
          @stopped = true
          @workers&.reverse_each(&:stop)
          @socket.close
        end

        # Sets many at once and reads each back. Goes on through lost packets and a restart of the desk.
        # @param values [Hash{String=>Object}] address => value
        # @return [Hash{String=>String}] address => why it is not so; empty when all is
        def set_all(values)
          failed = ask_many("/set", values) { nil }
          read = values.reject { |address, _| failed.key?(address) }
          kept = {}
          failed.merge!(ask_many("/get", read.keys.to_h { |address| [address, nil] }) { |address, value| kept[address] = value })
          @lock.synchronize { @mirror.merge!(kept) }
          kept.each { |address, value| failed[address] = keeps(address, value, values[address]) unless same?(value, values[address]) }
          failed
        end

        # Reads everything anew, as soon as the desk answers.
        # @return [Integer, nil] the desk's session now; nil when it stays away
        def read_again
          session = nil
          return unless ask_many("/get", { "session" => nil }) { |_, value| session = value }.empty?

          look(session)
          session
        rescue Failed
          nil
        end

        # Waits for a desk that has just gone: a line comes loose for a moment, and what was edited in it is not to be lost.
        # @return [Boolean] whether it is there
        def await
          while !@up && !@stopped && (left = @gone_at.to_f + BRIEF - Runtime::Clock.now).positive?
            @back.wait(left)
          end
          @up
        end

        # Something that happens to a desk in its workshop (docs/desk-control.md); only a stand-in has one.
        # @raise [Failed]
        def workshop(word, value) = request("/workshop", word, value)

        def same?(one, other) = one.is_a?(Float) && other.is_a?(Numeric) ? (one - other).abs < 0.005 : one == other

        private

        def keeps(address, kept, wanted) = "The desk keeps #{kept.inspect} for #{address} instead of #{wanted.inspect}."

        # @param list [Hash{String=>Object}] address => value to send with it, nil for none
        # @yield each address and the value that came back
        # @return [Hash{String=>String}] what was refused or never answered
        def ask_many(verb, list)
          inbox, failed, open, left = Runtime::Mailbox.new(most: 4 * WINDOW), {}, {}, list.to_a
          heard = Runtime::Clock.now
          until (left.empty? && open.empty?) || @stopped || Runtime::Clock.now - heard > PATIENCE
            launch(verb, left, open, inbox)
            answer = inbox.pop(AGAIN)
            address = answer && settle(open, answer) or next

            heard = Runtime::Clock.now
            answer.address == "/refused" ? failed[address] = "The desk refuses #{address}: #{answer.arguments.last}." : yield(address, answer.arguments.last)
          end
          (left.map(&:first) + open.values.map(&:address)).each { |address| failed[address] = "The desk does not answer (#{address})." }
          failed
        ensure
          @lock.synchronize { @waiting.delete_if { |_, queue| queue.equal?(inbox) } }
        end

        # Fills the window, and sends again what has waited too long.
        def launch(verb, left, open, inbox)
          until left.empty? || open.size >= WINDOW
            address, value = left.shift
            number = @lock.synchronize { (@number += 1).tap { |one| @waiting[one] = inbox } }
            send_one(open, number, Request.new(address, Formats::Osc.pack(verb, number, address, *[value].compact)))
          end
          late = Runtime::Clock.now - AGAIN
          send_one(open, *open.shift) while !open.empty? && open.first.last.sent <= late
        end

        # Those that were sent last stand last, so that nobody looks through all of them for the ones that are late.
        def send_one(open, number, request)
          request.sent = Runtime::Clock.now
          open[number] = request
          say(request.bytes)
        end

        # @return [String, nil] the address that an answer settles; nil for one that came twice
        def settle(open, answer) = open.delete(answer.arguments.first)&.address

        def request(verb, address, *rest)
          number = @lock.synchronize { @number += 1 }
          queue = Runtime::Mailbox.new(most: 4)
          @lock.synchronize { @waiting[number] = queue }
          bytes = Formats::Osc.pack(verb, number, address, *rest)
          answer = nil
          TRIES.times do
            say(bytes)
            break if (answer = queue.pop(WAIT)) || @stopped
          end
          raise Failed, "The desk does not answer (#{address})." unless answer
          raise Failed, "The desk refuses #{address}: #{answer.arguments.last}." if answer.address == "/refused"

          answer.arguments.last
        ensure
          @lock.synchronize { @waiting.delete(number) }
        end

        def say(bytes)
          @socket.send(bytes, 0)
        rescue SystemCallError
          nil # the desk is not there; the missing answer tells
        end

        def receive
          return hear_nothing(HEARING) unless @socket.wait_readable(HEARING)

          Formats::Osc.unpack(@socket.recv(65_536)).each { |message| hand_on(message) }
          @silent = 0
        rescue Formats::Osc::Malformed, SystemCallError
          sleep(0.02) # the port is closed: the desk is away
          hear_nothing(0.02)
        end

        def hear_nothing(seconds)
          @silent += seconds
          raise_flag(false) if @silent > SILENCE
        end

        # What one message does to us hinders no other.
        def hand_on(message)
          take(message)
        rescue StandardError => e
          Runtime::Health.trouble(e, "taking in what the desk tells")
        end

        def take(message)
          case message.address
          when "/meters" then MeterLetter.read(message.arguments)&.then { |peaks, rms| @on_meters.call(peaks, rms) }
          when "/changed" then changed(*message.arguments)
          when "/value", "/refused" then @lock.synchronize { @waiting[message.arguments.first] }&.<<(message)
          end
        end

        # A change whose number does not follow on the last one means that a word was lost; the next look finds out.
        def changed(revision, address, value)
          return unless revision.is_a?(Integer) && @mirror.key?(address)

          @lock.synchronize do
            @mirror[address] = value
            @revision = revision if revision == @revision.to_i + 1
          end
          @changes.wake
          @on_change.call(address)
        end

        # Looks every now and then whether it is still the same desk and nothing was missed. A word that is lost makes it not away.
        def keep(worker)
          look(request("/get", "session"), only: true)
          worker.rest(LOOK)
        rescue Failed
          worker.rest(LOOK)
        end

        # @param only [Boolean] whether to read only what has changed
        def look(session, only: false)
          @looking.synchronize do
            @profile, @boxes = request("/get", "profile"), request("/get", "boxes") unless session == @session
            renew unless session == @session && Runtime::Clock.now < @renew_at
            revision = request("/get", "revision")
            read_all(revision) unless only && @up && session == @session && caught_up?(revision)
            @session = session
          end
          raise_flag(true) unless @silent > SILENCE
        end

        # Changes that the desk has made already may be on their way.
        def caught_up?(revision)
          deadline = Runtime::Clock.now + GRACE
          until @lock.synchronize { @revision.to_i >= revision.to_i }
            left = deadline - Runtime::Clock.now
            return false unless left.positive?

            @changes.wait(left)
          end
          @revision.to_i - revision.to_i < WINDOW
        end

        def renew
          %w[changes meters].each { |what| request("/subscribe", what, SUBSCRIPTION) }
          @renew_at = Runtime::Clock.now + RENEW
        end

        def read_all(revision)
          values = {}
          missing = ask_many("/get", list.to_h { |address| [address, nil] }) { |address, value| values[address] = value }
          raise Failed, missing.values.first unless missing.empty?

          @lock.synchronize { @mirror, @revision = values, revision }
          @on_change.call
        end

        # All addresses, page by page.
        def list
          all = []
          loop do
            page = request("/list", "", all.size).to_s.split("\n")
            return all if page.empty? || all.size > MOST_ADDRESSES

            all.concat(page)
          end
        end

        def raise_flag(state)
          return if state == @up

          @gone_at = Runtime::Clock.now unless state
          @up = state
          @back.wake
          @on_change.call
        end
      end
    end
  end
end
