# frozen_string_literal: true

module Loomshuttle
  module Web
    module Desk
      # Which channels of the desk are on take, as the desk reports it, whatever show is open.
      module OnTake
        # Something would be done that leaves the desk on take, and nobody has said that it may.
        class Undecided < Problem
          KIND = :undecided

          attr_reader :channels

          # @param channels [Integer] number on take   @param what [String] the action, such as "open the show"
          def initialize(channels, what)
            @channels = channels
            who = channels == 1 ? "channel is" : "channels are"
            super("#{channels} #{who} on take: no stage input there. Return to stage first, or leave them on take, to #{what}.", where: "on_take")
          end

          def details = { channels: channels }
        end

        HEARS = %r{\A(strip|block)/(\d+)/hears\z}

        # @param mirror [Hash{String=>Object}] the desk's last known settings
        # @param profile [Rig::Desk, nil] of the connected desk
        # @return [Array<Integer>] channel numbers; on a desk that flips in blocks, every channel of a block
        def self.channels(mirror, profile)
          mirror.flat_map do |address, value|
            next [] unless value == "take" && (found = HEARS.match(address))

            number = found[2].to_i
            size = found[1] == "block" ? profile&.take_block || 1 : 1
            Array.new(size) { |at| ((number - 1) * size) + at + 1 }
          end.sort
        end

        # @return [Hash{String=>String}] address => "stage", for every position that is on take
        def self.returning(mirror) = mirror.select { |address, value| value != "stage" && HEARS.match?(address) }.transform_values { "stage" }

        # @return [Boolean] whether the path is a channel's position (stage or take)
        def self.path?(path) = path.match?(%r{\Achannel/\d+/position\z})
      end
    end
  end
end
