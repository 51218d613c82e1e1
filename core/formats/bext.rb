# frozen_string_literal: true

module Loomshuttle
  module Formats
    # The Broadcast Audio Extension chunk of EBU Tech 3285, version 1 (no loudness figures).
    #   description 256, originator 32, reference 32 characters at most; date "yyyy-mm-dd"; time "hh:mm:ss"
    #   time_reference: samples since midnight
    Bext = Value.define(:description, :originator, :reference, :date, :time, :time_reference, :history) do
      # @return [String] the chunk's data, without its header
      def pack
        fixed = [description, originator, reference, date, time].map { |text| text.encode("US-ASCII", undef: :replace, invalid: :replace) }
        coding = "#{history}\r\n"
        fixed.pack("a256a32a32a10a8") << [time_reference & 0xffffffff, time_reference >> 32, 1].pack("VVv") << ("\0" * 254) << coding
      end

      # Bytes that are read of a chunk: the coding history is free text.
      const_set(:LONGEST, 65_536)
      const_set(:FIXED, 602)

      # @param data [String] the chunk's data
      # @return [Bext, nil] nil if the data is too short
      def self.unpack(data)
        return if data.bytesize < self::FIXED

        description, originator, reference, date, time = data.unpack("Z256Z32Z32a10a8")
        low, high = data.byteslice(338, 8).unpack("VV")
        new(description: description, originator: originator, reference: reference, date: date, time: time,
            time_reference: low | (high << 32), history: data.byteslice(602..).to_s.unpack1("Z*").strip)
      end
    end
  end
end
