# frozen_string_literal: true

module Loomshuttle
  module Formats
    # OSC 1.0 messages and bundles (the specification of 2002 by Matt Wright). Types: i f s b, and of the optional ones
    # h d T F N, so that any of Ruby's plain values has one.
    module Osc
      class Malformed < StandardError; end

      Message = Struct.new(:address, :arguments)
      BUNDLE = "#bundle\0"

      # @param address [String] starts with "/"
      # @param arguments [Array<Integer, Float, String, true, false, nil>] a binary String becomes a blob
      # @return [String] binary
      def self.pack(address, *arguments)
        tags = +","
        data = arguments.map { |argument| encode(argument, tags) }
        string(address) << string(tags) << data.join
      end

      # Bundles in bundles, and messages of a packet.
      DEEPEST, MOST = 8, 1000

      # @param bytes [String] a message or a bundle
      # @return [Array<Message>] all messages of a bundle too; time tags are ignored
      # @raise [Malformed] says what is wrong
      def self.unpack(bytes, depth = 0)
        bytes = bytes.b
        raise Malformed, "bundles are nested more than #{DEEPEST} deep" if depth > DEEPEST
        raise Malformed, "a packet's size is a multiple of 4, not #{bytes.bytesize}" unless (bytes.bytesize % 4).zero?
        return bundle(bytes, depth) if bytes.start_with?(BUNDLE.b)

        [message(bytes)]
      end

      class << self
        private

        def encode(argument, tags)
          case argument
          when Integer then integer(argument, tags)
          when Float then tag(tags, "f") { [argument].pack("g") }
          when String then argument.encoding == Encoding::BINARY ? tag(tags, "b") { blob(argument) } : tag(tags, "s") { string(argument) }
          when true, false, nil then tag(tags, { true => "T", false => "F", nil => "N" }[argument]) { "" }
          else raise ArgumentError, "OSC has no type for #{argument.class}"
          end
        end

        def integer(argument, tags)
          return tag(tags, "i") { [argument].pack("l>") } if argument.between?(-(2**31), (2**31) - 1)

          tag(tags, "h") { [argument].pack("q>") }
        end

        def tag(tags, letter)
          tags << letter
          yield
        end

        # Ended by at least one zero, filled to four bytes.
        def string(text)
          bytes = text.b
          bytes << ("\0" * (4 - (bytes.bytesize % 4)))
        end

        def blob(bytes) = [bytes.bytesize].pack("N") << bytes << ("\0" * (-bytes.bytesize % 4))

        def message(bytes)
          address, at = read_string(bytes, 0)
          raise Malformed, "an address starts with /, not #{address.b[0..20].inspect}" unless address.start_with?("/")
          return Message.new(address, []) if at == bytes.bytesize

          tags, at = read_string(bytes, at)
          raise Malformed, "type tags of #{address.b.inspect[0, 60]} start with a comma" unless tags.start_with?(",")

          Message.new(address, read_arguments(bytes, at, tags[1..]))
        end

        def read_arguments(bytes, at, tags)
          tags.each_char.map do |letter|
            value, at = read(bytes, at, letter)
            value
          end
        end

        def read(bytes, at, letter)
          case letter
          when "i" then [fixed(bytes, at, 4).unpack1("l>"), at + 4]
          when "f" then [fixed(bytes, at, 4).unpack1("g"), at + 4]
          when "h" then [fixed(bytes, at, 8).unpack1("q>"), at + 8]
          when "d" then [fixed(bytes, at, 8).unpack1("G"), at + 8]
          when "s" then read_string(bytes, at)
          when "b" then read_blob(bytes, at)
          when "T", "F", "N" then [{ "T" => true, "F" => false, "N" => nil }[letter], at]
          else raise Malformed, "unknown type #{letter.inspect}"
          end
        end

        def fixed(bytes, at, size)
          part = bytes.byteslice(at, size)
          raise Malformed, "an argument is cut off" if part.nil? || part.bytesize < size

          part
        end

        def read_string(bytes, at)
          finish = bytes.index("\0".b, at) or raise Malformed, "a string has no end"
          [bytes.byteslice(at, finish - at).force_encoding(Encoding::UTF_8), finish + 4 - (finish % 4)]
        end

        def read_blob(bytes, at)
          size = fixed(bytes, at, 4).unpack1("N")
          [fixed(bytes, at + 4, size), at + 4 + size + (-size % 4)]
        end

        def bundle(bytes, depth)
          messages = []
          at = BUNDLE.bytesize + 8
          while at < bytes.bytesize
            size = fixed(bytes, at, 4).unpack1("N")
            messages.concat(unpack(fixed(bytes, at + 4, size), depth + 1))
            raise Malformed, "a packet has more than #{MOST} messages" if messages.size > MOST

            at += 4 + size
          end
          messages
        end
      end
    end
  end
end
