# frozen_string_literal: true

require "cgi/escape"

module Loomshuttle
  module Formats
    # The iXML chunk of a captured file: which track it is, and of which take (iXML specification 2.10, as published by its
    # authors; element names from memory).
    module IXml
      # A track with the fields used here, for callers that have no other.
      Track = Value.define(:number, :name, :inputs)

      # @param project [String]  @param take [String]  @param tracks [Array<Track, #name, #number, #inputs>] in the file, their lanes one behind the other
      # @param id [String] of the file   @param family [String] of the take
      # @param since_midnight [Integer] samples   @param bits [16, 24, 32]
      # @return [String] XML in UTF-8
      def self.write(project:, take:, tracks:, id:, family:, rate:, bits:, since_midnight:)
        lanes = tracks.flat_map { |track| (track.inputs.size == 1 ? [track.name] : ["#{track.name} L", "#{track.name} R"]).zip(track.inputs) }
        <<~XML
          <?xml version="1.0" encoding="UTF-8"?>
          <BWFXML>
          <IXML_VERSION>2.10</IXML_VERSION>
          <PROJECT>#{text(project)}</PROJECT>
          <TAKE>#{text(take)}</TAKE>
          <FILE_UID>#{id}</FILE_UID>
          <FILE_SET><FAMILY_UID>#{family}</FAMILY_UID><FAMILY_NAME>#{text(project)}</FAMILY_NAME><FILE_SET_INDEX>#{tracks.first.number}</FILE_SET_INDEX></FILE_SET>
          <SPEED><FILE_SAMPLE_RATE>#{rate}</FILE_SAMPLE_RATE><AUDIO_BIT_DEPTH>#{bits}</AUDIO_BIT_DEPTH><TIMESTAMP_SAMPLE_RATE>#{rate}</TIMESTAMP_SAMPLE_RATE><TIMESTAMP_SAMPLES_SINCE_MIDNIGHT_HI>#{since_midnight >> 32}</TIMESTAMP_SAMPLES_SINCE_MIDNIGHT_HI><TIMESTAMP_SAMPLES_SINCE_MIDNIGHT_LO>#{since_midnight & 0xFFFFFFFF}</TIMESTAMP_SAMPLES_SINCE_MIDNIGHT_LO></SPEED>
          <TRACK_LIST><TRACK_COUNT>#{lanes.size}</TRACK_COUNT>#{lanes.each_with_index.map { |(name, lane), at| track_xml(name, at + 1, lane) }.join}</TRACK_LIST>
          </BWFXML>
        XML
      end

      # Bytes of the chunk that are read, tracks of a file, and letters of a name.
      LONGEST, TRACKS, LETTERS = 65_536, 256, 120

      class << self
        # Reads what our own files say about themselves. Every field is limited in length; a missing one is nil.
        # @param text [String] the chunk's data
        # @return [Hash] project, take, family, index (the track's number), and tracks, each with name and lane (1-based)
        def read(text)
          text = text.byteslice(0, LONGEST).force_encoding("UTF-8").scrub("")
          field = ->(name, within = text) { within[%r{<#{name}>([^<]*)</#{name}>}, 1]&.then { |words| Text.readable(CGI.unescapeHTML(words).strip, most: LETTERS) } }
          tracks = text.scan(%r{<TRACK>(.*?)</TRACK>}m).first(TRACKS).map do |(one)|
            { "name" => field.call("NAME", one), "lane" => whole(field.call("CHANNEL_INDEX", one)) }
          end
          { "project" => field.call("PROJECT"), "take" => field.call("TAKE"), "family" => field.call("FAMILY_UID"), "index" => whole(field.call("FILE_SET_INDEX")),
            "tracks" => tracks }
        end

        # Reads the names of a file's lanes, in file order. Nothing else is trusted in a stranger's chunk.
        # @param text [String] the chunk's data, whatever it is
        # @return [Array<String>] empty unless every lane has a name
        def names(text)
          tracks = text.byteslice(0, LONGEST).force_encoding("UTF-8").scrub("").scan(%r{<TRACK>(.*?)</TRACK>}m).first(TRACKS).flatten
          named = tracks.to_h { |track| [track[/<INTERLEAVE_INDEX>\s*(\d{1,3})\s*</, 1].to_i, track[%r{<NAME>([^<]*)</NAME>}, 1].to_s] }
          named = named.sort.map { |_, name| Text.readable(CGI.unescapeHTML(name).strip, most: LETTERS) }
          named.size == tracks.size && named.none?(&:empty?) ? named : []
        end

        private

        def whole(words) = (words.to_i if words&.match?(/\A[1-9]\d{0,3}\z/))

        def track_xml(name, index, lane) = "<TRACK><CHANNEL_INDEX>#{lane}</CHANNEL_INDEX><INTERLEAVE_INDEX>#{index}</INTERLEAVE_INDEX><NAME>#{text(name)}</NAME></TRACK>"
        def text(words) = CGI.escapeHTML(words)
      end
    end
  end
end
