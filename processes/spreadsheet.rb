# frozen_string_literal: true

# Reads the first sheet of a workbook: spreadsheet.rb FILE. Prints {"csv": …} or {"error": …}. A separate process, with limits on time and
# memory, since a small file may unpack to anything.
require "json"
require_relative "../loader"
Loomshuttle.load_parts(:core, :runtime, :web)

begin
  puts JSON.generate("csv" => Loomshuttle::Web::Spreadsheet.read(File.binread(ARGV.first)))
rescue Loomshuttle::Invalid => e
  puts JSON.generate("error" => e.message, "where" => e.where)
end
