# frozen_string_literal: true

module Loomshuttle
  module StandIns
    module Desk
      # Answers OSC requests (docs/desk-control.md): each one gets a value or a refusal, and subscribers are told what
      # changes. Knows no socket: what it sends goes through the proc it is given.
      class Control
        LONGEST_SUBSCRIPTION = 30
        # Addresses in one answer to /list.
        PAGE = 500

        # @param settings [Settings]
        # @param facts [Hash{String=>Proc}] read-only addresses
        # @param now [Proc] seconds
        # @param workshop [Proc, nil] takes a word and a value; raises Settings::Refused
        # @param send [Proc] takes a peer and bytes
        def initialize(settings, facts:, now:, workshop: nil, &send)
          @settings = settings
          @facts = facts
          @now = now
          @workshop = workshop
          @send = send
          @subscribers = { "changes" => {}, "meters" => {} }
        end

        # @param bytes [String] a datagram
        # @param peer [Object] where it came from
        def receive(bytes, peer)
          Formats::Osc.unpack(bytes).each { |message| answer(message, peer) }
        rescue Formats::Osc::Malformed => e
          say(peer, "/refused", 0, "", "not an OSC packet: #{e.message}")
        end

        # @param blob [String] levels as Meters packs them
        # @param time [Integer] sample counter
        def tell_meters(blob, time) = each_subscriber("meters") { |peer| say(peer, "/meters", time, blob) }

        private

        def answer(message, peer)
          id, address, *rest = message.arguments
          return say(peer, "/refused", 0, message.address, "a request starts with a number and an address") unless id.is_a?(Integer) && address.is_a?(String)

          handle(message.address, peer, id, address, rest)
        rescue Settings::Refused => e
          say(peer, "/refused", id, address, e.message)
        end

        def handle(verb, peer, id, address, rest)
          case verb
          when "/get" then say(peer, "/value", id, address, value(address))
          when "/set" then set(peer, id, address, rest)
          when "/subscribe" then subscribe(peer, id, address, rest.first)
          when "/list" then say(peer, "/value", id, address, list(address, rest.first))
          when "/workshop" then say(peer, "/value", id, address, workshop(address, rest.first))
          else raise Settings::Refused, "#{verb} is not a request; known are /get, /set, /subscribe, /list and /workshop"
          end
        end

        # Things that happen to a desk: lost packets, a restart, another rig.
        def workshop(word, value)
          raise Settings::Refused, "this desk has no workshop" unless @workshop

          @workshop.call(word, value)
        end

        def value(address) = @facts.key?(address) ? @facts[address].call : @settings.get(address)

        # A page of addresses, for an answer must fit into one datagram.
        def list(prefix, from) = @settings.addresses.select { |one| one.start_with?(prefix) }.drop(from.to_i).first(PAGE).join("\n")

        def set(peer, id, address, rest)
          raise Settings::Refused, "a set has one value" unless rest.size == 1
          raise Settings::Refused, "#{address} can only be read" if @facts.key?(address)

          before = @settings.get(address)
          kept = @settings.set(address, rest.first)
          say(peer, "/value", id, address, kept)
          each_subscriber("changes") { |one| say(one, "/changed", @settings.revision, address, kept) } unless kept == before
        end

        def subscribe(peer, id, what, seconds)
          raise Settings::Refused, "changes or meters can be subscribed to" unless @subscribers.key?(what)

          fits = seconds.is_a?(Integer) && (0..LONGEST_SUBSCRIPTION).cover?(seconds)
          raise Settings::Refused, "a subscription lasts 0 to #{LONGEST_SUBSCRIPTION} whole seconds" unless fits

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
