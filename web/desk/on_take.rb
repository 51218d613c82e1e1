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

          # @param channels [Integer]   @param what [String] that would be done, such as "open the show"
          def initialize(channels, what)
            @channels = channels
            who = channels == 1 ? "channel is" : "channels are"
            super("#{channels} #{who} on take: no stage input there. Return to stage first, or leave them on take, to #{what}.", where: "on_take")
          end

          def details = { channels: channels }
        end

        HEARS = %r{\A(strip|block)/(\d+)/hears\z}

        # @param mirror [Hash{String=>Object}] the desk's settings as they were heard last
        # @param profile [Rig::Desk, nil] of the desk that is there
        # @return [Array<Integer>] numbers of channels; of a desk that flips in blocks all of a block
        def self.channels(mirror, profile)
          mirror.flat_map do |address, value|
            next [] unless value == "take" && (found = HEARS.match(address))

            number = found[2].to_i
            size = found[1] == "block" ? profile&.take_block || 1 : 1
            Array.new(size) { |at| ((number - 1) * size) + at + 1 }
          end.sort
        end

        # @return [Hash{String=>String}] settings of a desk that are not on stage, set to that
        def self.returning(mirror) = mirror.select { |address, value| value != "stage" && HEARS.match?(address) }.transform_values { "stage" }

        # @return [Boolean] whether a setting of the plan says what a channel hears
        def self.path?(path) = path.match?(%r{\Achannel/\d+/position\z})
      end
    end
  end
end
