# frozen_string_literal: true

module Loomshuttle
  module Web
    # Finds files of some kinds below a folder, without following links. Number of files, depth and time are limited.
    class FolderWalk
      MOST, LOOKED_AT, DEEPEST, SECONDS = 1000, 20_000, 6, 10

      # @param folder [String]   @param kinds [Array<String>] file extensions in lower case
      # @param beside [Array<String>] extensions of other files of interest: the first such file is listed however long the list of problems is
      def initialize(folder, kinds, beside: [])
        @folder, @kinds, @beside = folder, kinds, beside
        @found, @problems = [], []
        @looked = 0
        @deadline = Runtime::Clock.now + SECONDS
      end

      # @return [Array(Array<String>, Array<Hash>)] paths below the folder in order, and what was skipped (where, message)
      # @raise [Invalid] if the folder holds too many files
      def run
        walk("", 0)
        [@found.sort, @problems]
      end

      private

      def walk(inside, depth)
        Dir.each_child(File.join(@folder, inside)) do |entry|
          next if entry.start_with?(".")

          look(inside.empty? ? entry : File.join(inside, entry), depth)
        end
      rescue SystemCallError
        @problems << { where: Text.readable(inside), message: "cannot be read" }
      end

      def too_much? = @looked > LOOKED_AT || Runtime::Clock.now > @deadline

      def look(path, depth)
        @looked += 1
        raise Invalid.new("This folder contains too much. Choose the folder that holds the recordings.", where: "folder") if too_much?

        return leave(path, "has a name that cannot be read; rename it") unless path.dup.force_encoding(Encoding::UTF_8).valid_encoding? && path.bytesize < 3000

        stat = File.lstat(File.join(@folder, path))
        return depth < DEEPEST ? walk(path, depth + 1) : leave(path, "lies too deep") if stat.directory?
        return leave(path, "is not a sound file; skipped") unless stat.file? && @kinds.include?(File.extname(path).downcase)

        keep(path)
      rescue SystemCallError
        leave(path, "cannot be read")
      end

      def keep(path)
        raise Invalid.new("This folder has more than #{MOST} sound files. Choose the folder of one recording.", where: "folder") if @found.size >= MOST

        @found << path
      end

      # The first ones are enough to see what is wrong.
      def leave(path, why)
        wanted = !@told && @beside.include?(File.extname(path.b).downcase)
        @told = true if wanted
        @problems << { where: Text.readable(path), message: why } if wanted || @problems.size < 100
      end
    end
  end
end
