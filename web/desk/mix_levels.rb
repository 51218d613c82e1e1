# frozen_string_literal: true

module Loomshuttle
  module Web
    module Desk
      # The desk's mix in the terms of Signal::MixedLevels. The plan does not contain it; it belongs to the mixing engineer.
      module MixLevels
        MUTE = %r{/mute\z}
        LEVEL = %r{/(?:fader|mute|pan|trim)\z|\Astrip/\d+/bus/\d+\z|\Amatrix/\d+/(?:bus|main)/}
        SEND = %r{\Achannel/(\d+)/send/(\d+)\z}

        class << self
          # @param desk [Rig::Desk]
          # @return [Set<String>] names of all levels that such a desk has
          def names(desk) = Hearing::LevelNames.of(desk)

          # @param name [String] of a value
          # @return [String] the desk's address of the level
          def address(name)
            return "strip/#{Regexp.last_match(1)}/bus/#{Regexp.last_match(2)}" if SEND =~ name

            name.sub(/\Achannel/, "strip")
          end

          # @param address [String] of the desk
          # @return [Boolean] whether it is a mixing level, which is not part of the plan
          def level?(address) = LEVEL.match?(address)

          # @param mirror [Hash{String=>Object}] desk address => value
          # @return [Hash{String=>Object}] name => value, as far as the mirror knows; what a desk cannot do counts as off
          def read(desk, mirror)
            addresses(desk).each_with_object({}) do |(name, address, mute), found|
              value = mirror.fetch(address) { missing(name) }
              found[name] = mute ? value == 1 : value unless value.nil?
            end
          end

          # @return [Object] the value in the desk's form
          def to_desk(value) = { true => 1, false => 0 }.fetch(value) { value.to_f }

          private

          # Asked for many times a second while faders move.
          def addresses(desk) = desk.memo(:mix_level_addresses) { names(desk).map { |name| [name, address(name), MUTE.match?(name)].freeze }.freeze }

          # A desk without trims has none.
          def missing(name) = name.match?(%r{\Aoutput/\d+/trim\z}) ? 0 : nil
        end
      end
    end
  end
end
