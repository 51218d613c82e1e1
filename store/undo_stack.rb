# frozen_string_literal: true

module Loomshuttle
  module Store
    # What undo and redo would turn round, read from the journal: an edit clears what could be redone, an undo moves
    # its entry over, a redo moves it back.
    class UndoStack
      # @return [Integer] of the show whose journal it is
      attr_reader :show
      # @return [Integer] up to which it has been read
      attr_reader :version

      def initialize(show)
        @show = show
        @version = 0
        @undo = []
        @redo = []
      end

      # @param entries [Array<Hash>] of the journal behind `version`, oldest first
      # @return [UndoStack]
      def read(entries)
        entries.each { |entry| push(entry) }
        @version = entries.last[:version] unless entries.empty?
        self
      end

      # @param kind ["undo", "redo"]
      # @return [Hash, nil] the entry whose inverse does it
      def next(kind) = kind == "undo" ? @undo.last : @redo.last

      private

      def push(entry)
        case entry[:kind]
        when "edit"
          @undo << entry
          @redo.clear
        when "undo"
          @undo.pop
          @redo << entry
        when "redo"
          @redo.pop
          @undo << entry
        end
      end
    end
  end
end
