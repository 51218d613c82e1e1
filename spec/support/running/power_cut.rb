# frozen_string_literal: true

require "digest"

# What would be left below a folder if the power were cut: only what was synced. A file system may keep a rename and lose the bytes, or
# the other way round, so a file must be synced before it gets its name, and its folder afterwards.
module PowerCut
  # Tells the watcher of every sync and rename, wherever in the code it is.
  module Syncs
    def fsync = super.tap { PowerCut.watcher&.synced(self) }
  end

  module Renames
    def rename(from, to)
      PowerCut.watcher&.renamed(from.to_s)
      super
    end
  end

  # Remembers what is on the disk for certain.
  class Watcher
    attr_reader :violations

    def initialize(root, &on_sync)
      @root = "#{File.realpath(root)}/"
      @on_sync = on_sync
      @bytes, @names = {}, {}
      @violations = []
    end

    def synced(io)
      path = File.readlink("/proc/self/fd/#{io.fileno}")
      return unless "#{path}/".start_with?(@root)

      inode = File.stat(path).ino
      return @names[inode] = entries(path) if File.directory?(path)

      before, @bytes[inode] = @bytes[inode], Digest::SHA256.file(path).digest
      @on_sync&.call(path) unless before == @bytes[inode]
    end

    def renamed(path)
      return unless File.expand_path(path).start_with?(@root)

      files(path).each { |file| @violations << "#{file} was renamed before it was synced" unless safe?(file) }
    end

    # @return [Array<String>] files below the root that would be lost or broken now
    def lost(ignore: /\0/)
      Dir.glob("**/*", File::FNM_DOTMATCH, base: @root).map { |name| "#{@root}#{name}" }.select { |path| File.file?(path) && !path.match?(ignore) }
        .reject { |path| safe?(path) && named?(path) }
    end

    private

    def files(path) = File.directory?(path) ? Dir.glob("**/*", base: path).map { |name| File.join(path, name) }.select { |one| File.file?(one) } : [path]
    def entries(folder) = Dir.children(folder).to_h { |name| [name, File.lstat(File.join(folder, name)).ino] }
    def safe?(file) = @bytes[File.stat(file).ino] == Digest::SHA256.file(file).digest

    # Whether its folder, and that one's, would still know it.
    def named?(path)
      folder = File.dirname(path)
      return true unless "#{folder}/".start_with?(@root) && @names.key?(File.stat(folder).ino)

      @names[File.stat(folder).ino][File.basename(path)] == File.lstat(path).ino && ("#{folder}/" == @root || named?(folder))
    end
  end

  class << self
    attr_reader :watcher

    # @return [Watcher] that has seen the block
    def watch(root, &)
      IO.prepend(Syncs) unless IO < Syncs
      File.singleton_class.prepend(Renames) unless File.singleton_class < Renames
      @watcher = Watcher.new(root, &)
    end

    def forget = @watcher = nil
  end
end
