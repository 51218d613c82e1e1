# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # The recorder as a process. Its threads:
    #   main     receives packets, keeps them in order, sends playback; waits for nothing else
    #   batches  takes each 50 ms of sound: writes files, measures, tells the meters
    #   reader   reads ahead for playback
    # Ruby runs one of them at a time. Those two have a low priority, which makes their turns short, and pass on by
    # themselves between streams, so that main is never more than a few milliseconds behind the clock.
    #   control  accepts on the Unix socket; threads of each caller (Caller)
    #   watch    tells how a take goes on; looks whether there is another card: then the process ends, to be started again on that one
    #   disks    looks how full the disks are; one that hangs holds up nobody else
    #   recheck  measures recovered takes, a quarter of the time at most
    class Server
      # @param home [String] folder of the card's descriptions, and for takes, socket and configuration
      # @param cautious [Boolean] whether to start without its configuration, because it has crashed repeatedly
      def initialize(home:, cautious: false)
        @aside = Runtime::Aside.new(home)
        %w[recorder.json sound-device.json].each { |file| @aside.put(File.join(home, file), "The recorder ended again and again.") } if cautious
        @choice = Alsa::Choice.new(home, @aside)
        @description = @choice.device ? @choice : CardDescription.new(home)
        @takes = File.join(home, "takes")
        @spool = Spool.new
        @card = card
        @unit = make_unit(home, cautious)
        @control = ControlServer.new(File.join(home, "recorder.sock"), @unit, @choice, jobs: File.join(home, "jobs"))
        @unit.recovered.each { |take| Runtime::Log.now.warn("Recovered take #{take['number']}: #{take['note']}") }
      end

      # Runs until stop.
      def run
        Runtime::Priority.first
        connect
        workers = start_workers
        @control.start
        listen
      ensure
        @spool.close
        @batches&.join(30)
        workers&.each(&:stop)
        @unit.close
        @control.close
        @card.close
      end

      def stop = @stopped = true

      private

      # A packet that surprises us is one packet.
      def listen
        until @stopped
          begin
            @card.receive(0.2, playing: @unit.playing?) { |stream, arrived| @unit.engine.receive(stream, arrived) }
            @unit.engine.look
          rescue StandardError => e
            Runtime::Health.trouble(e, "receiving")
            sleep(0.001)
          end
        end
      end

      def make_unit(home, cautious)
        Unit.new(sends: @description.sends, returns: @description.returns, takes: @takes, settings: File.join(home, "recorder.json"), now: Runtime::Clock.method(:now),
                 aside: @aside, cautious: cautious) { |index, bytes| @card.send(index, bytes) }.tap do |unit|
          unit.card_status = -> { @card.status }
          unit.whole_card = !@choice.device.nil?
          unit.dropped = -> { @spool.dropped }
        end
      end

      # The desk's card over the network, or a sound card of this computer.
      def card
        return UdpCard.new(@description.sends, @description.returns) unless @choice.device

        Alsa::Card.new(@choice.device, rate: @choice.rate, sends: @choice.sends, returns: @choice.returns, now: Runtime::Clock.method(:now))
      end

      def connect
        @unit.spool = @spool.method(:<<)
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

      def start_workers
        @batches = batch_thread
        [Runtime::Worker.start("reader", priority: -3) { |worker| worker.rest(@unit.fill ? 0.05 : 0.1) },
         Runtime::Worker.start("watch") { |worker| watch(worker) },
         Runtime::Worker.start("disks") do |worker|
           @unit.tell_free(takes: Runtime::FreeBytes.of(@takes), mirror: @unit.mirror && Runtime::FreeBytes.of(@unit.mirror))
           @unit.look_at_mirror
           worker.rest(2)
         end,
         Runtime::Worker.start("recheck", priority: -4) { |worker| recheck(worker) }]
      end

      # It ends only once all that has arrived is written.
      def batch_thread
        Runtime::Task.start("batches", priority: -3) do
          while (batch = @spool.pop)
            begin
              @unit.handle(batch)
            rescue StandardError => e
              Runtime::Health.trouble(e, "batches")
            end
          end
        end
      end

      def recheck(worker)
        from = Runtime::Clock.now
        more = @unit.look_after_recovered
        worker.rest(more ? 3 * (Runtime::Clock.now - from) : 5)
      end

      # A capture is never cut short for it.
      def watch(worker)
        worker.rest(0.5)
        status = @unit.status
        @control.tell("status", status) if (@looks = @looks.to_i + 1).even?
        stop if status["capture"].nil? && (@description.changed? || @choice.changed?)
      end
    end
  end
end
