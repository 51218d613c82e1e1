# frozen_string_literal: true

module Loomshuttle
  module Hearing
    # Where the level of a join is set on the desk, and which setting of the plan the join depends on.
    module SlotWords
      class << self
        # @param name [Array] of Signal::LevelSlots   @param mix [Signal::Mix]
        # @return [String, nil] name of the level at the desk (Signal::MixedLevels); nil if no single one decides
        def value(name, mix)
          case name
          in [:fader, number] then "channel/#{number}/fader"
          in [:mute, number] then "channel/#{number}/mute"
          in [:send, base, bus] then mix.group?(bus) ? nil : "channel/#{base.number}/send/#{mix.leader(bus)}"
          in [:pan, base, _] then "channel/#{base.number}/pan"
          in [:bus_pan, bus, _] then "bus/#{mix.leader(bus)}/pan"
          in [:matrix, number, base] then "matrix/#{number}/#{base.kind}/#{base.number || base.side}"
          in [:master, base] then "#{master(base, mix)}/fader"
          in [:output, number] then "output/#{number}/trim"
          else nil
          end
        end

        # @return [String, nil] path of the setting in the plan
        def setting(name, mix)
          case name
          in [:send, base, bus] then mix.group?(bus) ? "channel/#{base.number}/groups" : "bus/#{mix.leader(bus)}/tap"
          in [:pan, base, _] then "channel/#{base.number}/main"
          in [:bus_pan, bus, _] then "bus/#{mix.leader(bus)}/main"
          else nil
          end
        end

        # @param base [Rig::Point] of a mix
        # @return [String] e.g. "bus/3"
        def master(base, mix)
          return "main" if base.kind == "main"

          "#{base.kind}/#{base.kind == 'bus' ? mix.leader(base.number) : base.number}"
        end
      end
    end
  end
end
