# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # One of two copies of a take, written at its own pace: a disk that stalls holds up neither the other copy nor the clock. Used as a
    # TakeFolder is; what goes wrong is raised at the next call. Its thread:
    #   copy   writes what was handed in, in order
    class PacedFolder
      # So much may wait (batches and refreshes; ten seconds of sound).
      MOST = 220
      # Nothing done for this long while so much waits, and the disk is given up (seconds).
      STALLED = 5
      # What is left at the end must be written in this time (seconds).
      LAST = 30

      # @param folder [TakeFolder]
      def initialize(folder)
        @folder = folder
        @waiting = Queue.new
        @moved = now
        @thread = Thread.new { work }
        @thread.priority = -3
      end

      def path = @folder.path
      def frames = @folder.frames

      # @raise [SystemCallError] what an earlier piece met, or EIO when the disk takes nothing any more
      def write(pieces, row) = hand_in(:write, pieces, row)

      # @raise [SystemCallError] as write
      def refresh(manifest) = hand_in(:refresh, manifest)

      # Waits until everything that was handed in is written; nothing can be handed in afterwards.
      # @raise [SystemCallError] as write
      def settle
        @waiting << nil
        raise Errno::EIO, "it did not take its end in #{LAST} s" unless @thread.join(LAST)
        raise @problem if @problem
      end

      # Closes what has settled or failed; what hangs is left as it is.
      # @return [String, nil] what went wrong
      def close(manifest, markers)
        return "#{path} could not be closed." unless @thread.join(0.1)

        @folder.close(manifest, markers)
      end

      private

      def work
        while (call, *arguments = @waiting.pop)
          @folder.public_send(call, *arguments)
          @moved = now
        end
      rescue SystemCallError => e
        @problem = e
      end

      # Where sound comes faster than in real time, it waits for the disk.
      def hand_in(*call)
        while @waiting.size >= MOST && !@problem
          raise Errno::EIO, "nothing was written for #{STALLED} s" if stalled?

          sleep(0.005)
        end
        raise @problem if @problem

        @waiting << call
      end

      def stalled? = now - @moved > STALLED && @waiting.size >= MOST
      def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    end
  end
end
