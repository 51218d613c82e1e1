# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # The recorder as a process. Its threads:
    #   main     receives packets, keeps them in order, sends playback; waits for nothing else
    #   batches  takes each 50 ms of sound: writes files, measures, tells the meters
    #   reader   reads ahead for playback
    # Ruby runs one of them at a time. Those two have a low priority, which makes their turns short, and pass on by
    # themselves between streams, so that main is never more than a few milliseconds behind the clock.
    #   control  accepts on the Unix socket; a thread a connection
    #   watch    looks how full the disks are and tells how a take goes on; looks whether there is another card: then the
    #            process ends, to be started anew on that one
    class Server
      # @param home [String] folder of the card's descriptions, and for takes, socket and configuration
      def initialize(home:)
        @choice = Alsa::Choice.new(home)
        @description = @choice.device ? @choice : CardDescription.new(home)
        @takes = File.join(home, "takes")
        @card = card
        @unit = Unit.new(sends: @description.sends, returns: @description.returns, takes: @takes,
                         settings: File.join(home, "recorder.json"), now: method(:seconds)) { |index, bytes| @card.send(index, bytes) }
        @unit.card_status = -> { @card.status }
        @control = ControlServer.new(File.join(home, "recorder.sock"), @unit, @choice)
        @unit.recovered.each { |take| warn "Recovered take #{take['number']}: #{take['note']}" }
      end

      # Runs until stop.
      def run
        come_first
        connect
        threads = [batch_thread, reader_thread]
        threads << watch_thread
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

      # The desk's card over the network, or a sound card of this computer.
      def card
        return UdpCard.new(@description.sends, @description.returns) unless @choice.device

        Alsa::Card.new(@choice.device, rate: @choice.rate, sends: @choice.sends, returns: @choice.returns, now: method(:seconds))
      end

      def connect
        @batches = Queue.new
        @unit.spool = ->(batch) { @batches << batch }
        @unit.on_meters = ->(position, peaks, rms) { @control.tell("meters", meters(position, peaks, rms)) }
        @unit.on_second = ->(lines, pairs) { @control.tell("second", second(lines, pairs)) }
        @unit.on_state = -> { @control.tell("state", @unit.status) }
      end

      def meters(position, peaks, rms)
        { "position" => position, "peak" => peaks.map { |level| level.round(1) }, "rms" => rms.map { |level| level.round(1) } }
          .merge(@unit.progress)
      end

      def second(lines, pairs)
        { "hum" => lines.map { |lane| lane.map { |amplitude| amplitude.round(6) } }, "pairs" => pairs.map { |one, two, r| [one, two, r.round(4)] } }
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

      # A capture is never cut short for it.
      def watch_thread
        Thread.new do
          looks = 0
          until @stopped
            sleep(0.5)
            @unit.tell_free(takes: FreeSpace.bytes(@takes), mirror: @unit.mirror && FreeSpace.bytes(@unit.mirror)) if (looks += 1) % 4 == 1
            status = @unit.status
            @control.tell("status", status) if looks.even?
            stop if status["capture"].nil? && (@description.changed? || @choice.changed?)
          end
        end
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
