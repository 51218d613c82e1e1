# frozen_string_literal: true

require "io/wait"

module Loomshuttle
  module Player
    # A sound card of this computer, played to through aplay. It is the clock: what it has taken is the time. It takes all outputs that it has or
    # none, in packets as an interface would, and nothing waits for it. Used by the thread that hears the clock; `send` also by one in a panic.
    class SoundCard
      BLOCK, PACKET, LANES = 480, 48, 8
      # It is opened again this often while it is not there (seconds).
      AGAIN = 1.0
      # What aplay holds ready (µs), and the pipe to it (bytes; Linux's F_SETPIPE_SZ).
      BUFFER, PIPE, SET_PIPE = 60_000, 4096, 1031
      # A device that takes faster than this times its rate is not a clock (a plugin that writes a file); it is held back.
      FASTEST = 1.02

      # @param device [Runtime::SoundDevices::Device]   @param rate [Integer]   @param now [Proc] monotonic time in seconds
      # @param most [Integer] outputs in use; any further ones stay silent
      def initialize(device, rate:, now:, most: 16)
        @device, @rate, @now = device, rate, now
        @lanes = [device.outputs, most].min
        @silent = device.outputs - @lanes
        @bytes = device.format == "S32_LE" ? 4 : 3
        @time, @left, @parts, @state = 0, "".b, {}, "gone"
      end

      attr_reader :device

      # @return [Array<Formats::Sdp::Stream>] its outputs in streams of eight
      def streams
        @streams ||= (1..@lanes).each_slice(LANES).map do |slice|
          Formats::Sdp::Stream.new(host: "", port: 0, lanes: slice.size, first: slice.first, rate: @rate, payload_type: Formats::Rtp::PAYLOAD_TYPE)
        end
      end

      # Waits until the card accepts more.
      # @param seconds [Float] longest wait
      # @yieldparam bytes [String] an RTP packet with the card's time
      def hear(seconds)
        open unless @pipe
        return sleep([seconds, 0.05].min) unless @pipe
        return sleep(0.002) if early?
        return unless @pipe.wait_writable(seconds) && written?

        @time += BLOCK
        yield Formats::Rtp.pack(sequence: 0, timestamp: @time, source: 0, payload: "\0\0\0")
      rescue SystemCallError, IOError
        lose
      end

      # All streams of a millisecond leave together; anything earlier than what the card already has is too late.
      def send(index, bytes)
        packet = Formats::Rtp.unpack(bytes)
        return unless @pipe
        return if @sent && !Formats::Rtp.distance(@sent, packet.timestamp, Formats::Rtp::TIMESTAMPS).positive?

        @parts[index] = packet.payload
        return if @parts.size < streams.size

        @sent = packet.timestamp
        @left << frames(@parts.values_at(*streams.each_index))
        @parts = {}
        written?
      end

      # @return [Hash] status for people
      def status = { "id" => Runtime::SoundDevices.id_of(@device.name), "words" => @device.words, "state" => @state, "outputs" => @lanes }

      # Silences at once what the card still has to play, by ending aplay and opening it again.
      # @return [true]
      def cut
        close
        @tried = nil
        true
      end

      def close
        pipe, @pipe = @pipe, nil
        @parts, @left, @sent = {}, "".b, nil
        return unless pipe

        Process.kill(:KILL, pipe.pid)
        pipe.close
      rescue SystemCallError, IOError
        nil
      end

      private

      # @param parts [Array<String>] of each stream
      def frames(parts)
        lanes = streams.map(&:lanes)
        return Audio::Pcm24.to_card(parts, lanes, @bytes) if @silent.zero?

        Audio::Pcm24.to_card([*parts, "\0" * (PACKET * @silent * Audio::Pcm24::BYTES)], [*lanes, @silent], @bytes)
      end

      def open
        return if @tried && @now.call - @tried < AGAIN

        @tried = @now.call
        return @state = "gone" unless Runtime::SoundDevices.listed?(@device.name, "aplay")

        @pipe = IO.popen(["aplay", "-q", "-D", @device.name, "-f", @device.format, "-c", @device.outputs.to_s, "-r", @rate.to_s, "-t", "raw", "--buffer-time=#{BUFFER}"],
                         "wb", err: File::NULL, out: File::NULL)
        @pipe.fcntl(SET_PIPE, PIPE)
        @since, @began, @state = @time, @now.call, "running"
      end

      def early? = @time - @since > (@now.call - @began + 0.05) * @rate * FASTEST

      # @return [Boolean] whether it has taken everything that was made
      def written?
        return false unless @pipe

        until @left.empty?
          count = @pipe.write_nonblock(@left, exception: false)
          return false if count == :wait_writable

          @left = @left.byteslice(count..)
        end
        true
      rescue SystemCallError, IOError
        lose
      end

      # @return [false]
      def lose
        close
        @state = "gone"
        false
      end
    end
  end
end
