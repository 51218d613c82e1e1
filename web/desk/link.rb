# frozen_string_literal: true

require "socket"
require "monitor"
require "io/wait"

module Loomshuttle
  module Web
    module Desk
      # The line to the desk (OSC over UDP): a mirror of all its settings, whether it is there, and its meters. Requests go by Exchange.
      # Its threads:
      #   hears the desk       receives answers, changes and meters
      #   keeps the mirror     renews subscriptions, and checks whether a change was missed
      class Link
        # Seconds without any word, and the desk is away; meters come 20 a second. They are counted by who hears: where this whole machine stood
        # still, that is not silence of the desk's.
        SILENCE, HEARING = 0.8, 0.1
        # What is to be done waits so long (seconds) for a desk that has just gone.
        BRIEF = 2
        # Seconds between looks whether anything has changed that no word came of.
        LOOK = 0.4
        RENEW = 3
        # Changes made before a look arrive within this time after it (seconds), or were lost.
        GRACE = 0.2
        SUBSCRIPTION = 10

        # Addresses that a desk has at most.
        MOST_ADDRESSES = 100_000

        # @param port [Integer] the desk's OSC port on this computer
        # @param on_change [Proc] called when the mirror or the connection changed, with the address if it is a single value
        # @param on_meters [Proc] called with peaks and RMS in dBFS: channels in order, then mains and outputs
        def initialize(port, on_change:, on_meters:)
          @socket = UDPSocket.new
          @socket.connect("127.0.0.1", port)
          @exchange = Exchange.new(@socket)
          @on_change, @on_meters = on_change, on_meters
          @mirror = {}
          @lock = Monitor.new # held for moments, never while an answer is waited for
          @looking = Monitor.new # held while all is read again, so that this is done once; @lock may be taken within
          @silent = 0
          @changes, @back = Runtime::Wakeup.new, Runtime::Wakeup.new
          @up = false
        end

        # @return [String, nil] id of the profile that the desk says it is, what hangs on its ports ("a 1 bramble-16", one box a
        #   line), and its number since its last start
        attr_reader :profile, :boxes, :session

        # @return [Boolean] whether the desk answers and its settings are known
        attr_reader :up
        alias up? up

        # @return [Hash{String=>Object}] address => value, the desk's last known settings
        def mirror = @lock.synchronize { @mirror.dup }

        def start
          @workers = [Runtime::Worker.start("hears the desk") { receive }, Runtime::Worker.start("keeps the mirror") { |worker| keep(worker) }]
        end

        def stop
          @stopped = true
          @exchange.stop
          @workers&.reverse_each(&:stop)
          @socket.close
        end

        # Sets many values at once and reads each back; survives lost packets and a restart of the desk.
        # @param values [Hash{String=>Object}] address => value
        # @return [Hash{String=>String}] address => why it is not set; empty if all are
        def set_all(values)
          failed = @exchange.ask_many("/set", values) { nil }
          read = values.reject { |address, _| failed.key?(address) }
          kept = {}
          failed.merge!(@exchange.ask_many("/get", read.keys.to_h { |address| [address, nil] }) { |address, value| kept[address] = value })
          @lock.synchronize { @mirror.merge!(kept) }
          kept.each { |address, value| failed[address] = keeps(address, value, values[address]) unless same?(value, values[address]) }
          failed
        end

        # Reads everything again as soon as the desk answers.
        # @return [Integer, nil] the desk's present session; nil if it stays away
        def read_again
          session = nil
          return unless @exchange.ask_many("/get", { "session" => nil }) { |_, value| session = value }.empty?

          look(session)
          session
        rescue Exchange::Failed
          nil
        end

        # Waits for a desk that has just gone, so that a loose cable does not lose an edit.
        # @return [Boolean] whether the desk is there
        def await
          while !@up && !@stopped && (left = @gone_at.to_f + BRIEF - Runtime::Clock.now).positive?
            @back.wait(left)
          end
          @up
        end

        # Sends a workshop command (docs/desk-control.md); only a stand-in accepts it.
        # @raise [Exchange::Failed]
        def workshop(word, value) = @exchange.request("/workshop", word, value)

        def same?(one, other) = one.is_a?(Float) && other.is_a?(Numeric) ? (one - other).abs < 0.005 : one == other

        private

        def keeps(address, kept, wanted) = "The desk keeps #{kept.inspect} for #{address} instead of #{wanted.inspect}."

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
          when "/value", "/refused" then @exchange.answer(message)
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

        # Inspections every now and then whether it is still the same desk and nothing was missed. A word that is lost makes it not away.
        def keep(worker)
          look(@exchange.request("/get", "session"), only: true)
          worker.rest(LOOK)
        rescue Exchange::Failed
          worker.rest(LOOK)
        end

        # @param only [Boolean] whether to read only what has changed
        def look(session, only: false)
          @looking.synchronize do
            @profile, @boxes = @exchange.request("/get", "profile"), @exchange.request("/get", "boxes") unless session == @session
            renew unless session == @session && Runtime::Clock.now < @renew_at
            revision = @exchange.request("/get", "revision")
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
          @revision.to_i - revision.to_i < Exchange::WINDOW
        end

        def renew
          %w[changes meters].each { |what| @exchange.request("/subscribe", what, SUBSCRIPTION) }
          @renew_at = Runtime::Clock.now + RENEW
        end

        def read_all(revision)
          values = {}
          missing = @exchange.ask_many("/get", list.to_h { |address| [address, nil] }) { |address, value| values[address] = value }
          raise Exchange::Failed, missing.values.first unless missing.empty?

          @lock.synchronize { @mirror, @revision = values, revision }
          @on_change.call
        end

        # All addresses, page by page.
        def list
          all = []
          loop do
            page = @exchange.request("/list", "", all.size).to_s.split("\n")
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
