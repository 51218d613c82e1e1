# frozen_string_literal: true

require "time"

module Loomshuttle
  module Runtime
    # The workers of this process with their errors, and errors elsewhere.
    module Health
      # Kinds of trouble that are counted apart.
      KINDS = 100

      @lock = Mutex.new
      @workers = []
      @counts = Hash.new(0)

      class << self
        def add(worker) = @lock.synchronize { @workers |= [worker] }
        def remove(worker) = @lock.synchronize { @workers.delete(worker) }

        # Logs and counts an error in a thread that has to go on. @return [nil]
        # @param where [String] what the program was doing
        def trouble(error, where)
          first = @lock.synchronize do
            kind = @counts.key?(where) || @counts.size < KINDS ? where : "something else"
            (@counts[kind] += 1) == 1 || (@counts[kind] % 1000).zero?
          end
          Log.surprise(error, where) if first
          nil
        end

        # @return [Array<Hash>] name, alive, troubles, last_trouble and last_at of each thread
        def threads = @lock.synchronize { @workers.dup }.map(&:report)

        # @return [Hash{String=>Integer}] number of errors by what the program was doing
        def troubles = @lock.synchronize { @counts.dup }
      end
    end
  end
end
