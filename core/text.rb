# frozen_string_literal: true

module Loomshuttle
  # Text that can be stored: valid UTF-8 in one normal form, without NUL and other control characters, of bounded length. Other text cannot be
  # stored in PostgreSQL, in file names or in XML.
  module Text
    # NUL and the like, line breaks and tabs apart.
    CONTROLS = /[\u0000-\u0008\u000B\u000C\u000E-\u001F\u007F\u0080-\u009F]/
    BREAKS = /[\t\r\n]/

    # @param value [Object]   @param where [String] what it is, for the error message
    # @param most [Integer] longest text, in characters   @param lines [Boolean] whether line breaks and tabs may be in it
    # @return [String] in Unicode's normal form C
    # @raise [Invalid]
    def self.keep(value, where = "text", most: 200, lines: true)
      refuse(where, "must be text") unless value.is_a?(String)
      clean = value.encoding == Encoding::UTF_8 ? value : value.dup.force_encoding(Encoding::UTF_8)
      refuse(where, "is not readable as UTF-8") unless clean.valid_encoding?
      # A short one cannot become long by being put together, so that nothing large is normalised.
      refuse(where, "has #{clean.length} characters; the limit is #{most}") if clean.length > most * 4
      clean = clean.unicode_normalize(:nfc) unless clean.ascii_only?
      refuse(where, "has #{clean.length} characters; the limit is #{most}") if clean.length > most
      refuse(where, "has characters that cannot be shown") if clean.match?(CONTROLS) || (!lines && clean.match?(BREAKS))
      clean
    end

    # Makes any value fit to print in a message, such as the name of a file.
    # @return [String] valid UTF-8 in one line, at most `most` characters
    def self.readable(value, most: 200) = value.to_s.dup.force_encoding(Encoding::UTF_8).scrub("?").gsub(CONTROLS, "?").gsub(BREAKS, " ")[0, most]

    # @param words [Array<String>] at least one
    # @return [String] e.g. "one", "one and two", "one, two and three"
    def self.list(words) = [words[..-2].join(", "), words.last].reject(&:empty?).join(" and ")

    # @param value [Numeric]
    # @return [String] with its sign: "+20 dB", "−6 dB"
    def self.decibels(value) = "#{'+' unless value.negative?}#{value} dB".tr("-", "−")

    def self.refuse(where, why) = raise(Invalid.new("#{where} #{why}.", where: where))
    private_class_method :refuse
  end
end
