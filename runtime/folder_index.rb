# frozen_string_literal: true

module Loomshuttle
  module Runtime
    # What lies in a folder of folders, each told by a file: a file is read again only when it has changed, so that thousands of them cost a
    # look at their times and no more; of those that are settled not even that. Used by one thread at a time.
    class FolderIndex
      Entry = Struct.new(:stamp, :value)

      # @return [Integer] how often something has come, changed or gone
      attr_reader :version

      # @param root [String]   @param file [String] name of the file in each folder
      # @param wanted [Regexp] names of folders
      # @param settled [Proc] takes what is kept of a folder; true: it changes no more until it is gone, and is not looked at again
      # @param read [Proc] takes the path of a folder and gives what is kept of it; nil: nothing
      def initialize(root, file, wanted: /\A[^.]/n, settled: ->(_) { false }, &read)
        @root, @file, @wanted, @settled, @read = root, file, wanted, settled, read
        @entries = {}
        @version = 0
      end

      # @return [Array<Object>] by name of the folder
      def all
        names = Dir.exist?(@root) ? Dir.children(@root).select { |name| name.b.match?(@wanted) }.sort : []
        (@entries.keys - names).each { |name| @entries.delete(name) && @version += 1 }
        names.filter_map { |name| look(name) }
      end

      private

      def look(name)
        entry = @entries[name]
        return entry.value if entry&.value && @settled.call(entry.value)

        folder = File.join(@root, name)
        stamp = stamp(folder)
        return entry.value if entry && entry.stamp == stamp

        @version += 1
        @entries[name] = Entry.new(stamp, @read.call(folder))
        @entries[name].value
      end

      # A file that is replaced is another one; what else is put into the folder changes that one's time.
      def stamp(folder)
        outer = File.mtime(folder)
        inner = File.stat(File.join(folder, @file))
        [outer, inner.mtime, inner.size, inner.ino]
      rescue SystemCallError
        outer
      end
    end
  end
end
