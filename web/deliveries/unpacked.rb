# frozen_string_literal: true

require "zip"
require "zlib"

module Loomshuttle
  module Web
    # Unpacks the sound files of a ZIP file into a folder of our own, flat and under their own names. Number, size and names are limited; paths in
    # the archive are ignored.
    class Unpacked
      PART = 1 << 20
      # The end record of a ZIP file holds the number of entries and lies within this many bytes of the end (PKWARE APPNOTE.TXT 4.3.16); 65,535 means more.
      ENTRIES, END_BYTES, END_MARK = 20_000, 65_557, "PK\5\6".b
      # A ZIP64 file has the number in a separate record (4.3.14), found by a locator before the end (4.3.15).
      LOCATOR, LOCATOR_BYTES, ELSEWHERE = "PK\6\7".b, 20, 0xFFFF
      # Bytes of a name that is written.
      NAME = 200

      # @param path [String] of the ZIP file   @param folder [String] to create   @param kinds [Array<String>] file extensions in lower case
      # @param most [Integer] limit of files   @param bytes [Integer] limit of their total size
      def initialize(path, folder, kinds:, most:, bytes:)
        @path, @folder, @kinds, @most, @left = path, folder, kinds, most, bytes
        @problems = []
      end

      # @yield after each written piece; the block may raise to stop
      # @return [Array<Hash>] what was skipped (where, message)
      # @raise [Invalid] if it is not a ZIP file or exceeds a limit
      def run(&)
        raise Invalid.new("There is too much in #{File.basename(@path)} to be a delivery.", where: "folder") if entries > ENTRIES

        FileUtils.mkdir_p(@folder, mode: 0o700)
        Zip::File.open(@path) { |zip| zip.select(&:file?).each { |entry| take(entry, &) } }
        @problems
      rescue Zip::Error, Zlib::Error, ArgumentError, EOFError => e
        raise Invalid.new("#{File.basename(@path)} cannot be unpacked: #{Text.readable(e.message, most: 120)}", where: "folder")
      end

      private

      # Before anything is read of them.
      def entries
        tail = File.open(@path, "rb") { |file| file.seek(-[END_BYTES, file.size].min, IO::SEEK_END) && file.read }
        at = tail.rindex(END_MARK) or return 0
        count = tail.byteslice(at + 10, 2).to_s.unpack1("v").to_i
        count == ELSEWHERE ? entries_of_zip64(tail, at) : count
      end

      def entries_of_zip64(tail, at)
        locator = at >= LOCATOR_BYTES ? tail.byteslice(at - LOCATOR_BYTES, LOCATOR_BYTES) : ""
        return ELSEWHERE unless locator.start_with?(LOCATOR)

        File.open(@path, "rb") { |file| file.pread(8, locator.unpack1("x8Q<") + 32).unpack1("Q<") }
      rescue SystemCallError, EOFError, RangeError
        ELSEWHERE
      end

      def take(entry, &)
        name = readable(entry.name)
        return if File.basename(name).start_with?(".") || name.start_with?("__MACOSX/")
        return leave(name, "is not a sound file; skipped") unless @kinds.include?(File.extname(name).downcase)
        return leave(name, "is locked by a password; skipped") if entry.encrypted?
        raise Invalid.new("There are more than #{@most} sound files in #{File.basename(@path)}.", where: "folder") if Dir.children(@folder).size >= @most

        write(entry, free_name(File.basename(name)), &)
      end

      # Many programs write names in the letters of their own system.
      def readable(name)
        text = name.dup.force_encoding(Encoding::UTF_8)
        text = text.force_encoding(Encoding::CP437).encode(Encoding::UTF_8, invalid: :replace, undef: :replace) unless text.valid_encoding?
        text.gsub("\\", "/").tr("\0", "_")
      end

      # Two of one name from two folders; a name that is too long for a disk keeps its ending.
      def free_name(name)
        ending = File.extname(name)
        stem = File.basename(name, ending).byteslice(0, NAME).scrub("")
        names = ["#{stem}#{ending}", *(2..(@most + 1)).lazy.map { |nth| "#{stem} (#{nth})#{ending}" }]
        File.join(@folder, names.find { |one| !File.exist?(File.join(@folder, one)) })
      end

      # What it claims of its size is not believed.
      def write(entry, path)
        File.open("#{path}.part", "wb") do |file|
          stream = entry.get_input_stream
          while (part = stream.read(PART))
            raise Full.new("What is in #{File.basename(@path)} needs more room than there is.", where: "folder") if (@left -= part.bytesize).negative?

            file.write(part)
            yield if block_given?
          end
          file.fsync
        end
        Runtime::Files.publish("#{path}.part", path)
      end

      def leave(name, why) = (@problems << { where: Text.readable(name), message: why } if @problems.size < 100)
    end
  end
end
