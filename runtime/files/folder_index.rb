# frozen_string_literal: true

module Loomshuttle
  module Runtime
    # What lies in a folder of folders, each told by a file: a file is read again only when it has changed, so that thousands of them cost a
    # look at their times and no more; of those that are settled not even that. Used by one thread at a time.
    class FolderIndex
      Entry = Struct.new(:folder, :file, :stamp, :value)

      # @return [Integer] how often something has come, changed or gone
      attr_reader :version

      # @param root [String]   @param file [String] name of the file in each folder
      # @param wanted [Regexp] names of folders
      # @param settled [Proc] called with a folder's kept value; true means that it will not change again and need not be reread
      # @param read [Proc] called with a folder's path, returns the value to keep; nil keeps nothing
      def initialize(root, file, wanted: /\A[^.]/n, settled: ->(_) { false }, &read)
        @root, @file, @wanted, @settled, @read = root, file, wanted, settled, read
        @entries = {}
        @version = 0
      end

      # @return [Array<Object>] kept values, sorted by name of the folder
      def all
        names = Dir.exist?(@root) ? Dir.children(@root).select { |name| @entries.key?(name) || name.b.match?(@wanted) }.sort : []
        (@entries.keys - names).each { |name| @entries.delete(name) && @version += 1 }
        names.filter_map { |name| look(name) }
      end

      private

      def look(name)
        entry = @entries[name] ||= File.join(@root, name).then { |folder| Entry.new(folder, File.join(folder, @file)) }
        return entry.value if entry.value && @settled.call(entry.value)

        stamp = stamp(entry)
        return entry.value if entry.stamp == stamp

        @version += 1
        entry.value = @read.call(entry.folder)
        entry.stamp = stamp
        entry.value
      end

      # A file that is replaced is another one; what else is put into the folder changes that one's time.
      def stamp(entry)
        outer = File.mtime(entry.folder)
        inner = File.stat(entry.file)
        [outer, inner.mtime, inner.size, inner.ino]
      rescue SystemCallError
        outer
      end
    end
  end
end
