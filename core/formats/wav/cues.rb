# frozen_string_literal: true

module Loomshuttle
  module Formats
    module Wav
      # Markers in a WAV file and their names: its "cue " chunk with the labels of its "LIST" "adtl" chunk (Microsoft and IBM, Multimedia
      # Programming Interface and Data Specifications 1.0, 1991, chapter 3).
      module Cues
        # Places of a file, and bytes of a chunk, that are looked at.
        MOST, LARGEST = 1000, 1 << 20
        POINT = 24

        # @param path [String]
        # @return [Array<Array(Rational, String)>] seconds and name, in order; "" for a cue without a name; empty if there are none
        # @raise [SystemCallError]
        def self.of(path)
          places, names, rate = {}, {}, nil
          File.open(path, "rb") do |file|
            Wav.each_chunk(file, whole: true) do |id, size, at|
              rate = file.pread(8, at).unpack("VV")[1] if id == "fmt "
              bytes = file.pread([size, LARGEST].min, at).to_s if ["cue ", "LIST"].include?(id) && size.positive?
              places.merge!(points(bytes)) if id == "cue "
              names.merge!(labels(bytes)) if id == "LIST" && bytes.start_with?("adtl")
            end
          end
          rate.to_i.positive? ? places.map { |point, frame| [Rational(frame, rate), names.fetch(point, "")] }.sort_by(&:first) : []
        rescue EOFError
          []
        end

        class << self
          private

          # Of each: its number, its place in the list, and where it lies: in the "data" chunk, from there, block, and sample.
          def points(bytes)
            count = bytes.unpack1("V").to_i.clamp(0, MOST)
            (0...count).filter_map do |nth|
              number, _, _, _, _, sample = bytes.byteslice(4 + (nth * POINT), POINT)&.unpack("VVa4VVV")
              [number, sample] if sample
            end.to_h
          end

          def labels(bytes)
            found, at = {}, 4
            while (head = bytes.byteslice(at, 8)) && head.bytesize == 8
              id, size = head.unpack("a4V")
              text = bytes.byteslice(at + 8, size).to_s
              found[text.unpack1("V")] = words(text.byteslice(4..)) if id == "labl" && text.bytesize > 4
              at += 8 + size + (size % 2)
            end
            found
          end

          def words(bytes)
            text = bytes.split("\0", 2).first.to_s.dup.force_encoding(Encoding::UTF_8)
            text = text.force_encoding(Encoding::WINDOWS_1252).encode(Encoding::UTF_8, invalid: :replace, undef: :replace) unless text.valid_encoding?
            Text.readable(text.strip, most: 80)
          end
        end
      end
    end
  end
end
