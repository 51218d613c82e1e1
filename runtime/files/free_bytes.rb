# frozen_string_literal: true

require "fiddle"

module Loomshuttle
  module Runtime
    # How many bytes are free on a folder's disk, by statvfs(3), which Fiddle calls without Ruby's lock. A disk that is gone may never answer.
    # Such a call stays behind in its thread, and that folder is not asked again until it has returned.
    module FreeBytes
      # Seconds that an answer may take.
      PATIENCE = 2
      # Of struct statvfs: f_bsize, f_frsize, f_blocks, f_bfree, f_bavail. The counts have 64 bits; the sizes are longs.
      FIELDS, ROOM = (Fiddle::SIZEOF_LONG == 8 ? "Q5" : "L2Q3"), 256
      ASK = Fiddle::Function.new(Fiddle.dlopen(nil)["statvfs64"], [Fiddle::TYPE_VOIDP, Fiddle::TYPE_VOIDP], Fiddle::TYPE_INT)
      private_constant :FIELDS, :ROOM, :ASK

      @hanging = {}
      @lock = Mutex.new # held for moments

      class << self
        # @param folder [String]
        # @return [Integer, nil] bytes available to ordinary users (f_bavail); nil if there is no such folder or its disk does not answer
        def of(folder, patience: PATIENCE)
          return if @lock.synchronize { @hanging[folder]&.alive? }

          task = Task.start("asks a disk") { ask(folder) }
          return task.value if task.join(patience)

          @lock.synchronize { @hanging[folder] = task }
          nil
        end

        private

        def ask(folder)
          room = "\0".b * ROOM
          return unless ASK.call(folder, room).zero?

          _, unit, _, _, free = room.unpack(FIELDS)
          unit * free
        rescue ArgumentError # a name with a null byte in it
          nil
        end
      end
    end
  end
end
