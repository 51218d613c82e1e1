# frozen_string_literal: true

module Loomshuttle
  module Store
    # What undo and redo would turn round for each person, read from the journal: an edit clears what its maker could have redone, an undo
    # moves its entry over, a redo moves it back. Flips are none of it.
    class UndoStack
      Stack = Struct.new(:undo, :redo)

      # @return [Integer] of the show whose journal it is
      attr_reader :show
      # @return [Integer] up to which it has been read
      attr_reader :version

      def initialize(show)
        @show = show
        @version = 0
        @stacks = Hash.new { |stacks, person| stacks[person] = Stack.new([], []) }
      end

      # @param entries [Array<Hash>] of the journal after `version`, oldest first
      # @return [UndoStack]
      def read(entries)
        entries.each { |entry| push(entry) }
        @version = entries.last[:version] unless entries.empty?
        self
      end

      # @param kind ["undo", "redo"]   @param person [String]
      # @return [Hash, nil] the entry to revert
      def next(kind, person) = @stacks.key?(person) ? @stacks[person][kind].last : nil

      private

      # Entries of older versions name nobody but who made them.
      def push(entry)
        person = entry[:person] || entry[:who]
        case entry[:kind]
        when "edit"
          @stacks[person].undo << entry
          @stacks[person].redo.clear
        when "undo" then turn(entry, person, :undo, :redo)
        when "redo" then turn(entry, person, :redo, :undo)
        end
      end

      # What was turned round may have been somebody else's, before undo was a person's own.
      def turn(entry, person, from, to)
        owner = ([person] + @stacks.keys).find { |one| @stacks[one][from].last&.fetch(:id) == entry[:reverts] } || person
        @stacks[owner][from].pop
        @stacks[owner][to] << entry
      end
    end
  end
end
