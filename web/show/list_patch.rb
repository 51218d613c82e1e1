# frozen_string_literal: true

module Loomshuttle
  module Web
    # Turns one list of records into another with the operations of JSON Patch (RFC 6902): "add", "remove" and "replace", applied in order. Each record
    # has a name. A record that differs is replaced whole; one that moved is removed and added.
    class ListPatch
      # @param path [String] JSON Pointer (RFC 6901) of the list
      # @param before [Hash{Object=>Object}] records by their names, in order   @param now [Hash{Object=>Object}]
      # @return [Array<Hash>, nil] :op, :path and, except for "remove", :value; nil if more than half has changed and replacing the list is shorter
      def self.between(path, before, now)
        return [] if before.equal?(now)

        steps = new(path, before, now).operations
        steps if steps.size * 2 <= now.size
      end

      def initialize(path, before, now)
        @path, @before, @now = path, before, now
        @moved = moved(before.keys.select { |name| now.key?(name) }, now.keys.select { |name| before.key?(name) })
      end

      # @return [Array<Hash>]
      def operations = removals + arrivals

      private

      # Last index first, so that no removal shifts the next.
      def removals
        gone = @before.each_key.with_index.reject { |name, _| stays?(name) }
        gone.reverse.map { |_, at| { op: "remove", path: "#{@path}/#{at}" } }
      end

      def arrivals
        @now.each_with_index.filter_map do |(name, record), at|
          next { op: "add", path: "#{@path}/#{at}", value: record } unless @before.key?(name) && stays?(name)

          { op: "replace", path: "#{@path}/#{at}", value: record } unless @before[name] == record
        end
      end

      def stays?(name) = @now.key?(name) && !@moved.key?(name)

      # Names to leave out for both orders to agree. Where two disagree, the one that is further from its old place has moved.
      def moved(old, new)
        return {} if old == new

        old_at, new_at = [old, new].map { |list| list.each_with_index.to_h }
        found, i, j = {}, 0, 0
        while i < old.size && j < new.size
          if found.key?(old[i]) then i += 1
          elsif found.key?(new[j]) then j += 1
          elsif old[i] == new[j] then i, j = i + 1, j + 1
          else found[new_at[old[i]] - j >= old_at[new[j]] - i ? old[i] : new[j]] = true
          end
        end
        found
      end
    end
  end
end
