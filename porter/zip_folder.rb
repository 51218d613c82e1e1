# frozen_string_literal: true

require "zip"

module Loomshuttle
  module Porter
    # A folder as a ZIP file. Sound hardly compresses, so it is stored.
    module ZipFolder
      BLOCK = 1 << 20

      # @param folder [String]   @param path [String] of the file to create
      # @yieldparam bytes [Integer] packed so far
      def self.pack(folder, path)
        Zip.write_zip64_support = true
        Zip.unicode_names = true # and says that they are
        name = File.basename(folder)
        Zip::OutputStream.open(path) do |zip|
          Dir.children(folder).sort.each do |entry|
            zip.put_next_entry("#{name}/#{entry}", nil, nil, Zip::Entry::STORED)
            File.open(File.join(folder, entry), "rb") do |file|
              while (bytes = file.read(BLOCK))
                zip << bytes
                yield bytes.bytesize
              end
            end
          end
        end
      end
    end
  end
end
