# frozen_string_literal: true

module Loomshuttle
  module Web
    # The part of a resource that a request asks for (RFC 9110, section 14): one range, or all of it.
    module ByteRange
      # @param header [String, nil]   @param size [Integer] bytes in all
      # @return [Array(Integer, Integer, Boolean), nil] first byte, byte after the last, and whether it is a part of the whole; nil if out of range
      def self.of(header, size)
        first, last = header.to_s.match(/\Abytes=(\d{0,15})-(\d{0,15})\z/)&.captures
        return [0, size, false] if first.nil? || (first.empty? && last.empty?)
        return [[size - last.to_i, 0].max, size, true] if first.empty?
        return if first.to_i >= size || (!last.empty? && last.to_i < first.to_i)

        [first.to_i, last.empty? ? size : [last.to_i + 1, size].min, true]
      end

      # @return [Hash] headers for the answer
      def self.headers(from, upto, size, part)
        { "accept-ranges" => "bytes", "content-length" => (upto - from).to_s, "connection" => "close", **(part ? { "content-range" => "bytes #{from}-#{upto - 1}/#{size}" } : {}) }
      end
    end
  end
end
