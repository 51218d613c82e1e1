# frozen_string_literal: true

# A file is loaded when it is first named, in whatever order that happens in a process: what it needs of a library it asks for, and does not
# rely on another file having asked before.
RSpec.describe "What a file needs of a library" do
  needed = { "numo/narray" => /\bNumo::/, "json" => /\bJSON[.:]/, "digest" => /\bDigest::/, "securerandom" => /\bSecureRandom\./, "fileutils" => /\bFileUtils\./,
             "socket" => /\b(?:TCP|UDP|UNIX)(?:Socket|Server)\b|\bSocket[.:]|\bAddrinfo\./, "tempfile" => /\bTempfile\./, "stringio" => /\bStringIO\./, "open3" => /\bOpen3\./,
             "csv" => /\bCSV\./, "zlib" => /\bZlib[.:]/, "etc" => /\bEtc\./, "tmpdir" => /\bDir\.mktmpdir/, "monitor" => /\bMonitor\./, "time" => /\bTime\.(?:parse|iso8601)|\.iso8601\b/,
             "io/wait" => /\.wait_(?:readable|writable)\(/, "forwardable" => /\bForwardable\b/, "delegate" => /\b(?:SimpleDelegator|DelegateClass)\b/, "logger" => /::Logger\b/,
             "date" => /\bDate\.(?:new|today|parse|iso8601|valid)/, "uri" => /\bURI[(.]/, "net/http" => /\bNet::HTTP/, "shellwords" => /\bShellwords\./, "bigdecimal" => /\bBigDecimal\(/,
             "prawn" => /\bPrawn::/, "zip" => /(?<!::)\bZip::(?!64)/, "roo" => /\bRoo::/, "sequel" => /(?<!::)\bSequel[.:]/, "open-uri" => /\bURI\.open/, "erb" => /\bERB\./,
             "rexml/document" => /\bREXML::/, "thor" => /\bThor\b/, "zeitwerk" => /\bZeitwerk::/, "timeout" => /\bTimeout\./ }
  # Brings others along: socket has io/wait, the loader what every process begins with.
  along = { "io/wait" => %w[socket] }
  from_the_start = %w[fileutils zeitwerk]
  parts = Loomshuttle::PARTS.keys.map(&:to_s) + %w[processes demo]

  parts.each do |part|
    it "is asked for by each file of #{part}" do
      missing = Dir[File.join(Loomshuttle::ROOT, part, "**", "*.rb")].flat_map do |file|
        code = File.readlines(file).reject { |line| line.strip.start_with?("#") }.join
        asked = code.scan(/^\s*require "([^"]+)"/).flatten
        next [] if file.include?("/migrations/") # they are read by Sequel itself

        needed.reject { |library, _| from_the_start.include?(library) || [library, *along[library]].intersect?(asked) }
              .filter_map { |library, named| "#{file.delete_prefix("#{Loomshuttle::ROOT}/")}: #{library}" if code.gsub(/"(?:[^"\\]|\\.)*"/, '""').match?(named) }
      end
      expect(missing.join("\n")).to eq("")
    end
  end
end
