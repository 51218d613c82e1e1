# frozen_string_literal: true

module Loomshuttle
  module StandIns
    module Desk
      # Answers OSC requests (docs/desk-control.md) with a value or a refusal, and tells subscribers about changes. It knows no socket: it sends
      # through the proc it is given.
      class Control
        LONGEST_SUBSCRIPTION = 30
        # Addresses in one answer to /list.
        PAGE = 500
        # Most subscribers of each kind.
        LISTENERS = 32
        # Longest text of a request; a rig has a whole datagram.
        LONGEST = 1000

        # @param settings [Settings]
        # @param facts [Hash{String=>Proc}] read-only addresses
        # @param now [Proc] seconds
        # @param preamps [Preamps, nil] shared by channels
        # @param workshop [Proc, nil] called with a word and a value; raises Settings::Refused
        # @param send [Proc] called with a peer and bytes
        def initialize(settings, facts:, now:, preamps: nil, workshop: nil, &send)
          @settings, @preamps = settings, preamps
          @facts = facts
          @now = now
          @workshop = workshop
          @send = send
          @subscribers = { "changes" => {}, "meters" => {} }
        end

        # @param bytes [String] a datagram
        # @param peer [Object] its sender
        def receive(bytes, peer)
          Formats::Osc.unpack(bytes).each { |message| answer(message, peer) }
        rescue Formats::Osc::Malformed => e
          say(peer, "/refused", 0, "", "not an OSC packet: #{Text.readable(e.message)}")
        end

        # @param blob [String] levels as Meters packs them
        # @param time [Integer] sample counter
        def tell_meters(blob, time) = each_subscriber("meters") { |peer| say(peer, "/meters", time, blob) }

        private

        def answer(message, peer)
          id, address, *rest = message.arguments
          known = id.is_a?(Integer) && id.between?(0, (1 << 31) - 1) && address.is_a?(String)
          return say(peer, "/refused", 0, Text.readable(message.address), "a request starts with a number and an address") unless known

          check(message)
          handle(message.address, peer, id, address, rest)
        rescue Settings::Refused, Invalid => e
          say(peer, "/refused", id, Text.readable(address), Text.readable(e.message, most: 400))
        rescue StandardError => e # a desk works on whatever it is told
          Runtime::Health.trouble(e, "answering #{Text.readable(message.address, most: 40)}")
          say(peer, "/refused", id, Text.readable(address), "this desk cannot do that")
        end

        # Values that can be kept: text that can be read, numbers that are numbers.
        def check(message)
          message.arguments.each do |one|
            Text.keep(one, "text", most: message.address == "/workshop" ? 65_536 : LONGEST) if one.is_a?(String) && one.encoding != Encoding::BINARY
            raise Settings::Refused, "that is not a number" if one.is_a?(Float) && !one.finite?
          end
        end

        def handle(verb, peer, id, address, rest)
          case verb
          when "/get" then say(peer, "/value", id, address, value(address))
          when "/set" then set(peer, id, address, rest)
          when "/subscribe" then subscribe(peer, id, address, rest.first)
          when "/list" then say(peer, "/value", id, address, list(address, rest.first))
          when "/workshop" then say(peer, "/value", id, address, workshop(address, rest.first))
          else raise Settings::Refused, "#{Text.readable(verb, most: 40)} is not a request; known are /get, /set, /subscribe, /list and /workshop"
          end
        end

        # Things that happen to a desk: lost packets, a restart, another rig.
        def workshop(word, value)
          raise Settings::Refused, "this desk has no workshop" unless @workshop

          @workshop.call(word, value)
        end

        def value(address) = @facts.key?(address) ? @facts[address].call : @settings.get(address)

        # A page of addresses, for an answer must fit into one datagram.
        def list(prefix, from)
          raise Settings::Refused, "a list goes on from a whole number, 0 or more" unless from.nil? || (from.is_a?(Integer) && from.between?(0, 1 << 20))

          @settings.addresses.select { |one| one.start_with?(prefix) }.drop(from.to_i).first(PAGE).join("\n")
        end

        def set(peer, id, address, rest)
          raise Settings::Refused, "a set has one value" unless rest.size == 1
          raise Settings::Refused, "#{address} can only be read" if @facts.key?(address)

          along = keep(address, rest.first) { |kept| say(peer, "/value", id, address, kept) }
          along.each { |other, value| keep(other, value) }
        end

        # Sets one and tells who listens.
        # @yieldparam kept [Object] the value as it is kept
        # @return [Hash{String=>Object}] what must be set along with it
        def keep(address, value)
          before = @settings.get(address)
          kept, along = @preamps ? @preamps.along(address) { @settings.set(address, value) } : [@settings.set(address, value), {}]
          yield kept if block_given?
          each_subscriber("changes") { |one| say(one, "/changed", @settings.revision, address, kept) } unless kept == before
          along
        end

        def subscribe(peer, id, what, seconds)
          raise Settings::Refused, "changes or meters can be subscribed to" unless @subscribers.key?(what)

          fits = seconds.is_a?(Integer) && (0..LONGEST_SUBSCRIPTION).cover?(seconds)
          raise Settings::Refused, "a subscription lasts 0 to #{LONGEST_SUBSCRIPTION} whole seconds" unless fits

          each_subscriber(what) { nil } # lets those go that are over
          raise Settings::Refused, "#{LISTENERS} listen already" unless @subscribers[what].key?(peer) || @subscribers[what].size < LISTENERS

          @subscribers[what][peer] = @now.call + seconds
          say(peer, "/value", id, what, seconds)
        end

        def each_subscriber(what, &)
          @subscribers[what].delete_if { |_, ends| ends <= @now.call }
          @subscribers[what].each_key(&)
        end

        def say(peer, address, *arguments) = @send.call(peer, Formats::Osc.pack(address, *arguments))
      end
    end
  end
end
