# frozen_string_literal: true

require "securerandom"

module Loomshuttle
  module Web
    # Scans folders and uploads for recordings, one at a time in its own thread, so that no server thread is blocked. Its thread:
    #   looks into deliveries
    class Inspections
      # Finished inspections kept, inspections that may wait, and the time limit of one (seconds).
      KEPT, WAITING, SECONDS = 20, 5, 120

      # One look: state "looking", "done" or "failed"; seen: files so far
      Look = Struct.new(:id, :source, :show, :state, :seen, :items, :problems, :error, :where, :folder) do
        # @return [Array<Delivery::Sound>] all files found
        def sounds = items.flat_map(&:sounds).uniq
      end

      # @param deliveries [Deliveries]
      def initialize(deliveries)
        @deliveries = deliveries
        @looks = {}
        @lock = Mutex.new # held for moments
        @waiting = Runtime::Mailbox.new(most: WAITING)
      end

      def start
        @worker = Runtime::Worker.start("looks into deliveries") { @waiting.pop(1)&.then { |look| carry_out(look) } }
      end

      def stop = @worker&.stop

      # @param source [Hash]   @param show [Settings::Show]
      # @return [String] its id
      # @raise [Invalid] at once if it is not a folder or too many scans are waiting
      def begin(source, show)
        folder = @deliveries.folder_of(source)
        raise Invalid.new("#{WAITING} folders are already waiting to be scanned. Try again in a moment.", where: "folder") if @waiting.size >= WAITING

        look = Look.new(SecureRandom.uuid, source, show, "looking", 0, [], [], nil, nil, folder)
        @lock.synchronize do
          @looks[look.id] = look
          @looks.shift while @looks.size > KEPT
        end
        @waiting << look
        look.id
      end

      # @return [Look]
      # @raise [Invalid] if there is none any more
      def find(id) = @lock.synchronize { @looks[id] } || raise(Invalid.new("That scan has expired; scan again.", where: "look"))

      # @return [Array<String>] folders of inspections that may still be imported
      def folders = @lock.synchronize { @looks.values }.filter_map { |look| look.folder if look.state != "failed" }

      private

      def carry_out(look)
        deadline = Runtime::Clock.now + SECONDS
        look.items, look.problems = @deliveries.look(look.source, look.show) do |seen|
          look.seen = seen
          raise Invalid.new("Scanning took longer than #{SECONDS} s; choose a smaller folder.", where: "folder") if Runtime::Clock.now > deadline
        end
        look.state = "done"
      rescue Invalid => e
        look.error, look.where, look.state = e.message, e.where, "failed"
      rescue StandardError => e
        look.error, look.state = "It could not be scanned: #{e.class}.", "failed"
        raise
      end
    end
  end
end
