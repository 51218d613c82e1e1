# frozen_string_literal: true

module Loomshuttle
  module Web
    # Cleans up after imports: hands finished takes and songs over to the recorder and the library, and deletes uploads that were used or abandoned.
    # Its thread:
    #   clears up
    class Clearing
      # Finished takes are looked for, and old deliveries cleared away, so often (seconds).
      LOOK, CLEAR = 1, 600

      # @param jobs [Jobs]   @param deliveries [Deliveries]   @param recorder [RecorderLink]   @param songs [SongLibrary]
      def initialize(jobs, deliveries, recorder, songs)
        @jobs, @deliveries, @recorder, @songs = jobs, deliveries, recorder, songs
      end

      def start
        @worker = Runtime::Worker.start("clears up") do |worker|
          worker.rest(LOOK)
          turn
        end
      end

      def stop = @worker&.stop

      private

      def turn
        jobs = @jobs.all
        @jobs.ready(jobs).each { |job| take_over(job) } if @recorder.up?
        @jobs.ready_songs(jobs).each { |job| keep_song(job) }
        @jobs.ready_stems(jobs).each { |job| keep_stems(job) }
        return if @cleared && Runtime::Clock.now - @cleared < CLEAR

        @cleared = Runtime::Clock.now
        @deliveries.clear
        @jobs.clear
      end

      def keep_song(job)
        @songs.take_over(job)
        @deliveries.used(job)
      rescue SystemCallError, Invalid => e
        Runtime::Health.trouble(e, "keeping the song #{job['name']}")
      end

      # Stems of a song that was deleted are removed as well.
      def keep_stems(job)
        @songs.keep_stems(job)
      rescue SystemCallError, Invalid => e
        Runtime::Health.trouble(e, "keeping #{job['name']}")
        FileUtils.rm_rf(job["result"]) if e.is_a?(Invalid)
      end

      def take_over(job)
        @recorder.call("take.adopt", folder: job["result"])
        @deliveries.used(job)
      rescue Away, Invalid => e
        Runtime::Health.trouble(e, "taking over #{job['name']}")
      end
    end
  end
end
