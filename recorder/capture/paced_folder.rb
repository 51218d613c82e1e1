# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # One of two copies of a take, written at its own pace: a disk that stalls holds up neither the other copy nor the clock. Used as a
    # TakeFolder is; what goes wrong is raised at the next call. Its thread:
    #   copy   writes what was handed in, in order
    class PacedFolder
      # So much may wait: batches and refreshes (ten seconds of sound), and bytes of them.
      MOST = 220
      MOST_BYTES = 128 << 20
      # Nothing done for this long while so much waits, and the disk is given up (seconds).
      STALLED = 5
      # What is left at the end must be written in this time (seconds).
      LAST = 30

      # @param folder [TakeFolder]
      def initialize(folder)
        @folder = folder
        @waiting = []
        @bytes = 0
        @lock = Mutex.new
        @changed = ConditionVariable.new
        @moved = Runtime::Clock.now
        @thread = Runtime::Task.start("writes a copy", priority: -3) { work }
      end

      def path = @folder.path
      def frames = @folder.frames

      # @raise [SystemCallError] the error of an earlier piece, or EIO if the disk no longer accepts anything
      def write(pieces, row) = hand_in(:write, pieces, row)

      # @raise [SystemCallError] as write
      def refresh(manifest) = hand_in(:refresh, manifest)

      # Waits until everything handed in is written; accepts nothing afterwards.
      # @raise [SystemCallError] as write
      def settle
        @lock.synchronize do
          @ended = true
          @changed.broadcast
        end
        raise Errno::EIO, "it did not take its end in #{LAST} s" unless @thread.join(LAST)
        raise @problem if @problem
      end

      # Closes a folder that has settled or failed; one whose disk hangs is left as it is.
      # @return [String, nil] what went wrong
      def close(manifest, markers)
        return "#{path} could not be closed." unless @thread.join(0.1)

        @folder.close(manifest, markers)
      end

      private

      def work
        while (call, *arguments = take)
          @folder.public_send(call, *arguments)
          moved(arguments.first)
        end
      rescue SystemCallError => e
        failed(e)
      rescue StandardError => e # told as the disk's trouble, for whoever writes knows no other
        Runtime::Log.surprise(e, "writing a copy")
        failed(Errno::EIO.new("#{e.class} inside"))
      end

      def take
        @lock.synchronize do
          @changed.wait(@lock, 1) while @waiting.empty? && !@ended
          @waiting.first
        end
      end

      def moved(piece)
        @lock.synchronize do
          @waiting.shift
          @bytes -= size(piece)
          @moved = Runtime::Clock.now
          @changed.broadcast
        end
      end

      def failed(problem)
        @lock.synchronize do
          @problem = problem
          @changed.broadcast
        end
      end

      # Where sound comes faster than in real time, it waits for the disk. Must not be called with the lock.
      def hand_in(*call)
        @lock.synchronize do
          while full? && !@problem
            raise Errno::EIO, "nothing was written for #{STALLED} s" if Runtime::Clock.now - @moved > STALLED

            @changed.wait(@lock, 0.1)
          end
          raise @problem if @problem

          @moved = Runtime::Clock.now if @waiting.empty?
          @waiting << call
          @bytes += size(call[1])
          @changed.broadcast
        end
      end

      def full? = @waiting.size >= MOST || @bytes > MOST_BYTES

      # @param piece [Hash, nil] samples of tracks, or a manifest
      def size(piece) = piece.to_h.each_value.sum { |one| one.is_a?(String) ? one.bytesize : 0 }
    end
  end
end
