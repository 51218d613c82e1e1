# frozen_string_literal: true

require "fileutils"

module Loomshuttle
  module Recorder
    # The recorder as a process. Its threads:
    #   main     receives packets, keeps them in order, sends playback; waits for nothing else
    #   batches  takes each 50 ms of sound: writes files, measures, tells the meters
    #   reader   reads ahead for playback
    # Ruby runs one of them at a time. Those two have a low priority, which makes their turns short, and pass on by
    # themselves between streams, so that main is never more than a few milliseconds behind the clock.
    #   control  accepts on the Unix socket; a thread a connection
    class Server
      # @param sends [String] session description of what arrives  @param returns [String] of what goes back
      # @param home [String] folder for takes, socket and configuration
      def initialize(sends:, returns:, home:)
        sends, returns = Formats::Sdp.read(sends), Formats::Sdp.read(returns)
        FileUtils.mkdir_p(home)
        @card = UdpCard.new(sends, returns)
        @unit = Unit.new(sends: sends, returns: returns, takes: File.join(home, "takes"),
                         settings: File.join(home, "recorder.json"), now: method(:seconds)) { |index, bytes| @card.send(index, bytes) }
        @control = ControlServer.new(File.join(home, "recorder.sock"), @unit)
        @unit.recovered.each { |take| warn "Recovered take #{take['number']}: #{take['note']}" }
      end

      # Runs until stop.
      def run
        come_first
        connect
        threads = [batch_thread, reader_thread]
        @control.start
        @card.receive(0.2) { |stream, bytes| @unit.engine.receive(stream, bytes) } until @stopped
      ensure
        @batches&.close
        threads&.each(&:join)
        @unit.close
        @control.close
        @card.close
      end

      def stop = @stopped = true

      private

      def connect
        @batches = Queue.new
        @unit.spool = ->(batch) { @batches << batch }
        @unit.on_meters = ->(position, peaks, rms) { @control.tell("meters", meters(position, peaks, rms)) }
        @unit.on_state = -> { @control.tell("state", @unit.status) }
      end

      def meters(position, peaks, rms)
        { "position" => position, "peak" => peaks.map { |level| level.round(1) }, "rms" => rms.map { |level| level.round(1) } }
          .merge(@unit.progress)
      end

      def batch_thread
        Thread.new do
          while (batch = @batches.pop)
            @unit.handle(batch)
          end
        end.tap { |thread| second_to_clock(thread) }
      end

      def reader_thread
        Thread.new { sleep(@unit.fill ? 0.05 : 0.1) until @stopped }.tap { |thread| second_to_clock(thread) }
      end

      # Sound before screens, where the system lets us.
      def come_first
        Process.setpriority(Process::PRIO_PROCESS, 0, -10)
      rescue SystemCallError
        nil
      end

      def second_to_clock(thread)
        thread.priority = -3
        thread.abort_on_exception = true
      end

      def seconds = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    end
  end
end
