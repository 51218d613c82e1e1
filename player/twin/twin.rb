# frozen_string_literal: true

require "digest"
require "json"

module Loomshuttle
  module Player
    # Messages between two players: lines of JSON over TCP, each of bounded length and checked by its shape.
    #   hello   code, digest            of the follower, first of all
    #   welcome digest                  or "refused" with the reason
    #   do      what, with, at          a command for a sample of the clock that both hear
    #   load    song                    a song is put on
    #   state   time, position, song, playing, digest
    module Twin
      # Bytes of a line; seconds between two states; without a word for so long the line is cut.
      LINE, OFTEN, SILENT = 65_536, 0.2, 2.0
      # Seconds until it is welcome: somebody else may be guessing the code.
      WELCOME = 10
      # Commands are done so much later than they were asked for (samples at 48 kHz: 50 ms), so that the follower has them in time.
      AHEAD = 2400

      CODE = Shape.text(most: 12, least: 4, pattern: /\A[0-9a-z]+\z/)
      DIGEST = Shape.map(Shape.text(most: 64), most: 1100)
      SAMPLE = Shape.whole(0..Shape::LARGEST)
      HELLO = Shape.record({ "code" => Shape.text(most: 64), "digest" => DIGEST })
      WITH = Shape.record({}, { "section" => Requests::SECTION, "sample" => Songs::SongFile::FRAMES, "seconds" => Shape.number(0.01..60), "on" => Shape.boolean,
                                "at_next" => Shape.one_of(*Songs::Walk::AT_NEXT) })
      SAY = { "welcome" => Shape.record({ "digest" => DIGEST }), "refused" => Shape.record({ "why" => Shape.text(most: 200) }),
              "do" => Shape.record({ "what" => Shape.text(most: 20), "with" => WITH, "at" => Shape.or_none(SAMPLE) }),
              "load" => Shape.record({ "song" => Shape.text(most: 36, pattern: Songs::SongFile::ID) }),
              "state" => Shape.record({ "time" => SAMPLE, "position" => Shape.or_none(Shape.whole), "song" => Shape.or_none(Shape.text(most: 36)), "playing" => Shape.boolean,
                                        "digest" => DIGEST }) }.freeze

      class << self
        # @param config [Config]   @param library [SongReader]
        # @return [Hash{String=>String}] checksums of everything that must match, by name for people
        def digest(config, library)
          songs = config["items"].map { |item| item["song"] }.uniq.to_h { |id| library.sum(id) }.merge(varied(config["items"], library))
          plain = config["items"].map { |item| item.except("key", "version") }
          { "the running order" => sum(plain), "roles and outputs" => sum(config["roles"]), "the pilot" => sum(config["pilot"].slice("hz", "level_db")) }.merge(songs)
        end

        # Translates a sample count of the other computer into this one's. Both receive the same 32-bit clock, but may have started on either
        # side of a wrap.
        # @param mine [Integer] a sample on this computer's count, less than half a wrap away
        def near(mine, theirs) = mine + Formats::Rtp.distance(mine % Formats::Rtp::TIMESTAMPS, theirs % Formats::Rtp::TIMESTAMPS, Formats::Rtp::TIMESTAMPS)

        # @return [Array<String>] names of what differs or is missing
        def differences(one, other) = (one.keys | other.keys).reject { |name| one[name] == other[name] }

        # @param line [String]
        # @return [Array(String, Hash)] word and details
        # @raise [Invalid]
        def read(line)
          word, details = JSON.parse(line, max_nesting: 6).first
          shape = SAY[word] or raise Invalid.new("The other computer says #{Text.readable(word, most: 20)}.", where: "twin")
          [word, shape.check(details, word)]
        rescue JSON::ParserError, EncodingError, NoMethodError
          raise Invalid.new("The other computer sent an unreadable message.", where: "twin")
        end

        # @return [String]
        def say(word, **details) = JSON.generate({ word => details })

        private

        # Whether what goes otherwise tonight is made.
        def varied(items, library)
          otherwise = items.map { |item| [item["song"], item.fetch("tempo", 100), item.fetch("key_by", 0)] }.uniq.reject { |_, tempo, key| Songs::Varied.plain?(tempo, key) }
          otherwise.to_h { |id, tempo, key| ["#{library.sum(id).first} at #{Songs::Varied.words(tempo, key)}", library.made?(id, tempo, key) ? "made" : "missing"] }
        end

        def sum(value) = Digest::SHA256.hexdigest(JSON.generate(value))[0, 32]
      end
    end
  end
end
