# frozen_string_literal: true

require "socket"

module Loomshuttle
  module Player
    # A foot switch by OSC or by MIDI, which goes on working while the web and the database stand still. OSC: /go, /around, /leave and /stop, with
    # a figure that is 0 where the foot is lifted, or with none; from this computer, or from addresses that somebody has named. MIDI: a raw
    # device of ALSA that somebody has chosen, and its messages as they were learnt. Its thread:
    #   foot   hears both, and does what is asked
    class FootSwitch
      # A device that has gone is looked for again so often (seconds).
      AGAIN = 2
      LOOK = 0.1
      LARGEST, MOST = 1024, 50
      DEVICES = "/dev/snd/midiC*D*"

      # @param unit [Unit]   @param config [Config]   @param now [Proc] monotonic time in seconds
      # @param port [Integer, nil] UDP port of OSC   @param from [Array<String>] network addresses allowed to send
      # @param devices [Array<String>] paths of further raw MIDI devices
      def initialize(unit, config, now:, port: nil, from: [], devices: [])
        @unit, @config, @now, @more = unit, config, now, devices
        @from = ["127.0.0.1", *from]
        @keys = FootKeys.new
        @osc = UDPSocket.new.tap { |socket| socket.bind(from.empty? ? "127.0.0.1" : "0.0.0.0", port) } if port
        @port = port
      rescue SystemCallError => e
        @problem = "OSC of a foot switch: #{e.message}"
      end

      def start = @worker = Runtime::Worker.start("foot") { turn }

      def stop
        @worker&.stop
        [@osc, @device].each { |one| one&.close }
      end

      # @return [Hash] all settings, and the last message received
      def status
        { "osc" => @osc && @port, "devices" => devices.keys, "midi" => chosen, "keys" => keys, "last" => @last, "problem" => @problem }
      end

      # One turn: waits briefly for a message and acts on it.
      def turn
        open_device
        ready, = IO.select([@osc, @device].compact, nil, nil, LOOK)
        hear_osc if ready&.include?(@osc)
        hear_midi if @device && ready&.include?(@device)
        carry_out(@keys.look(@now.call))
      end

      private

      def devices = [*Dir[DEVICES], *@more].to_h { |path| [File.basename(path), path] }
      def chosen = @config["foot"]["midi"]
      def keys = @config["foot"].fetch("keys", {})

      def hear_osc
        MOST.times do
          bytes, sender = @osc.recvfrom_nonblock(LARGEST, exception: false)
          break unless bytes.is_a?(String)
          next unless @from.include?(sender[3])

          Formats::Osc.unpack(bytes).each { |message| osc(message) }
        rescue Formats::Osc::Malformed
          next
        end
      end

      def osc(message)
        word, figure = message.address.delete_prefix("/"), message.arguments.first
        press(word, !figure.is_a?(Numeric) || figure.positive?) if FootKeys::WORDS.include?(word)
      end

      # Only one that is on the list: a device is never named by others.
      def open_device
        return if @opened == chosen && (@device || chosen.nil? || @now.call - @tried < AGAIN)

        @device&.close
        @device, @opened, @tried, @midi = nil, chosen, @now.call, Formats::MidiStream.new
        return @problem = nil unless chosen

        path = devices[chosen] or return @problem = "The MIDI device #{chosen} is not there."
        @device = File.open(path, File::RDONLY | File::NONBLOCK)
        @problem = nil
      rescue SystemCallError => e
        @problem = "The MIDI device #{chosen} cannot be opened: #{e.message}"
      end

      def hear_midi
        bytes = @device.read_nonblock(LARGEST, exception: false)
        return gone if bytes.nil?

        @midi.push(bytes).each { |message| midi(message) } if bytes.is_a?(String)
      rescue SystemCallError
        gone
      end

      def gone
        @device.close
        @device = nil
        @problem = "The MIDI device #{chosen} has gone."
      end

      def midi(message)
        @last = message.name
        word = keys[message.name]
        press(word, message.down) if word
      end

      def press(word, down) = carry_out(@keys.press(word, down, @now.call))

      # A refused command is reported with the status.
      def carry_out(word)
        case word
        when "go" then @unit.go(waiting: false)
        when "around" then @unit.command("around", on: true)
        when "leave" then @unit.command("around", on: false)
        when "stop" then @unit.command("stop")
        end
        @problem = nil if word
      rescue Invalid => e
        @problem = e.message
      end
    end
  end
end
