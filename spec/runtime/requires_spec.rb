# frozen_string_literal: true

# A file is loaded when it is first named, in whatever order that happens in a process: what it needs of a library it asks for, and does not
# rely on another file having asked before.
RSpec.describe "What a file needs of a library" do
  let(:needed) do
    { "numo/narray" => /\bNumo::/, "json" => /\bJSON[.:]/, "digest" => /\bDigest::/, "securerandom" => /\bSecureRandom\./, "tempfile" => /\bTempfile\./,
      "socket" => /\b(?:TCP|UDP|UNIX)(?:Socket|Server)\b|\bSocket[.:]|\bAddrinfo\./, "stringio" => /\bStringIO\./, "open3" => /\bOpen3\./, "csv" => /\bCSV\./,
      "zlib" => /\bZlib[.:]/, "etc" => /\bEtc\./, "tmpdir" => /\bDir\.mktmpdir/, "monitor" => /\bMonitor\./, "time" => /\bTime\.(?:parse|iso8601)|\.iso8601\b/,
      "io/wait" => /\.wait_(?:readable|writable)\(/, "forwardable" => /\bForwardable\b/, "delegate" => /\b(?:SimpleDelegator|DelegateClass)\b/, "logger" => /::Logger\b/,
      "date" => /\bDate\.(?:new|today|parse|iso8601|valid)/, "uri" => /\bURI[(.]/, "net/http" => /\bNet::HTTP/, "shellwords" => /\bShellwords\./, "erb" => /\bERB\./,
      "bigdecimal" => /\bBigDecimal\(/, "prawn" => /\bPrawn::/, "zip" => /(?<!::)\bZip::(?!64)/, "roo" => /\bRoo::/, "sequel" => /(?<!::)\bSequel[.:]/,
      "rexml/document" => /\bREXML::/, "thor" => /\bThor\b/, "timeout" => /\bTimeout\./ }
  end
  # Libraries that bring another along.
  let(:along) { { "io/wait" => %w[socket] } }

  def missing(file)
    code = File.readlines(file).reject { |line| line.strip.start_with?("#") }.join
    asked = code.scan(/^\s*require "([^"]+)"/).flatten
    code = code.gsub(/"(?:[^"\\]|\\.)*"/, '""')
    needed.reject { |library, _| [library, *along[library]].intersect?(asked) }.select { |_, named| code.match?(named) }.keys
  end

  [*Loomshuttle::PARTS.keys.map(&:to_s), "processes", "demo"].each do |part|
    it "is asked for by each file of #{part}" do
      files = Dir[File.join(Loomshuttle::ROOT, part, "**", "*.rb")].reject { |file| file.include?("/migrations/") } # those are read by Sequel itself
      found = files.to_h { |file| [file.delete_prefix("#{Loomshuttle::ROOT}/"), missing(file)] }
      expect(found.reject { |_, libraries| libraries.empty? }).to eq({})
    end
  end
end
