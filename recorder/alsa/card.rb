# frozen_string_literal: true

require "io/wait"
require "numo/narray"

module Loomshuttle
  module Recorder
    module Alsa
      # A class-compliant interface as the recorder's card, through arecord and aplay: what comes in is handed on as the packets that a
      # desk would send, so that everything behind it is the same. Its threads:
      #   words    reads what arecord and aplay complain about
      class Card
        PACKET = 48
        # The device is opened again this often while it is not there (seconds).
        AGAIN = 1.0
        # Playback that nobody feeds any more is closed after this (seconds).
        IDLE = 1.0
        # A lost stretch up to this length (seconds) is filled by its exact length.
        LONGEST = 600
        # A device that delivers faster than this times its rate is not a clock (a plugin that reads a file); it is held back.
        FASTEST = 1.02

        # @return [String] "running", "busy" or "gone"
        attr_reader :state
        # @return [Integer] how often samples were lost on the way in
        attr_reader :overruns

        # @param device [Runtime::SoundDevices::Device]   @param rate [Integer]
        # @param sends [Array<Formats::Sdp::Stream>] as the engine expects them   @param returns [Array<Formats::Sdp::Stream>]
        # @param now [Proc] monotonic time in seconds
        def initialize(device, rate:, sends:, returns:, now:)
          @device, @rate, @sends, @returns, @now = device, rate, sends, returns, now
          @lanes = device.inputs
          @bytes = device.format == "S32_LE" ? 4 : 3
          @frame = @lanes * @bytes
          @source = Random.rand(1 << 31)
          @time = @sequence = @overruns = 0
          @left = "".b
          @parts = {}
          @playout = Playout.new
          @overrun = Queue.new # frames that arecord says were lost
          @skip = 0
          @state = "gone"
        end

        # Waits for samples and yields them as packets.
        # @param seconds [Float] longest wait
        # @yieldparam stream [Integer] @yieldparam bytes [String]
        # @return [Boolean] whether anything arrived
        def receive(seconds, **, &)
          open_capture unless @capture
          close_idle
          return pause(seconds) unless @capture && behind?
          return false unless @capture.wait_readable(seconds)

          bytes = @capture.read_nonblock(@frame * PACKET * 20, exception: false)
          return lost if bytes.nil?

          bytes == :wait_readable ? false : hand_on(bytes, &)
        end

        # Plays a packet; all streams of a millisecond leave together.
        def send(index, bytes)
          packet = Formats::Rtp.unpack(bytes)
          @parts = {} unless packet.timestamp == @period
          @period = packet.timestamp
          @parts[index] = packet.payload
          return if @parts.size < @returns.size

          open_playback unless @playback
          @played_at = @now.call
          @playout.offer(Audio::Pcm24.to_card(@parts.values_at(*@returns.each_index), @returns.map(&:lanes), @bytes), @playback)
        rescue SystemCallError, IOError
          close_playback
        ensure
          @parts = {} if @parts.size >= @returns.size
        end

        # @return [Hash] status for people
        def status
          { "id" => Runtime::SoundDevices.id_of(@device.name), "device" => @device.name, "words" => @device.words, "state" => @state, "overruns" => @overruns, "lost" => @playout.lost, "lanes" => @lanes }
        end

        def close
          close_playback
          close_capture
          @ending&.join(2)
        end

        private

        def open_capture
          return if @tried && @now.call - @tried < AGAIN

          @tried = @now.call
          return @state = "gone" unless Runtime::SoundDevices.listed?(@device.name)

          gone = @went && ((@now.call - @went) * @rate).round
          @time += gone - (gone % PACKET) if gone # what was missed stays a gap of its own length
          @went = nil
          read, write = IO.pipe
          @capture = IO.popen(["arecord", *arguments(@lanes)], "rb", err: write)
          write.close
          listen(read)
          @began, @since = @now.call, @time
          @state = "running"
        end

        def arguments(lanes) = ["-D", @device.name, "-f", @device.format, "-c", lanes.to_s, "-r", @rate.to_s, "-t", "raw", "--buffer-time=200000"]

        # What arecord says: lost samples with their length, or why it ends.
        def listen(pipe)
          Runtime::Task.start("reads arecord's messages") do
            pipe.each_line("\n", 4096) do |line|
              line = line.scrub("?")
              line =~ /overrun.*at least ([\d.]+) ms/ ? overrun(Regexp.last_match(1).to_f) : (@complaint = line.strip unless line.start_with?("Recording"))
            end
          rescue IOError, SystemCallError
            nil # closed
          ensure
            pipe.close
          end
        end

        # The lost stretch is a gap: what comes then stands where it belongs.
        def overrun(milliseconds)
          @overruns += 1
          @overrun << (milliseconds * @rate / 1000).round
        end

        def behind? = @time - @since < (@now.call - @began + 0.1) * @rate * FASTEST

        def pause(seconds)
          sleep([seconds, 0.005].min)
          false
        end

        def lost
          close_capture
          @went = @now.call
          @state = @complaint.to_s.match?(/busy/i) ? "busy" : "gone"
          false
        end

        def hand_on(bytes, &)
          bytes = @left + bytes
          size = bytes.bytesize - (bytes.bytesize % (@frame * PACKET))
          @left = bytes.byteslice(size..)
          return false if size.zero?

          skip_lost
          packets(bytes.byteslice(0, size), size / @frame, &)
          true
        end

        # Time advances by whole packets; a remainder is added to the next loss.
        def skip_lost
          @skip = [@skip + @overrun.pop, LONGEST * @rate].min until @overrun.empty?
          @time += @skip - (@skip % PACKET)
          @skip %= PACKET
        end

        # Big-endian columns of each stream's lanes, a millisecond a packet.
        def packets(bytes, frames)
          octets = Numo::UInt8.from_binary(bytes, [frames, @lanes, @bytes])[true, true, (@bytes - 3)..]
          streams = @sends.map { |stream| octets[true, (stream.first - 1)...(stream.first - 1 + stream.lanes), [2, 1, 0]].dup.to_binary }
          (0...(frames / PACKET)).each do |nth|
            @sends.each_with_index do |stream, index|
              width = PACKET * stream.lanes * Audio::Pcm24::BYTES
              payload = streams[index].byteslice(nth * width, width)
              yield index, Formats::Rtp.pack(sequence: @sequence, timestamp: @time % Formats::Rtp::TIMESTAMPS, source: @source, payload: payload)
            end
            @time += PACKET
            @sequence = (@sequence + 1) % Formats::Rtp::SEQUENCES
          end
        end

        def open_playback
          @playback = IO.popen(["aplay", *arguments(@returns.sum(&:lanes))], "wb", err: File::NULL, out: File::NULL)
        end

        def close_idle
          close_playback if @playback && @now.call - @played_at > IDLE
        end

        def close_playback
          playback, @playback = @playback, nil
          @playout.clear
          @ending = Runtime::Task.start("lets aplay finish") { let_play_out(playback) } if playback
        end

        # It plays what it has, or is ended.
        def let_play_out(playback)
          waiting = Process.detach(playback.pid)
          playback.close_write
          Process.kill(:KILL, playback.pid) unless waiting.join(2)
        rescue SystemCallError, IOError
          nil
        end

        def close_capture
          capture, @capture = @capture, nil
          @left = "".b
          end_of(capture)
        end

        def end_of(pipe)
          return unless pipe

          Process.kill(:TERM, pipe.pid)
          pipe.close
        rescue SystemCallError, IOError
          nil
        end
      end
    end
  end
end
