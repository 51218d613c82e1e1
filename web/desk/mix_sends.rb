# frozen_string_literal: true

module Loomshuttle
  module Web
    module Desk
      # The planned part of the sends from channels to buses: their taps, and which subgroups a channel is in. The desk has a setting for each send;
      # the plan stores only what differs from the bus.
      module MixSends
        class << self
          # @param show [Settings::Show]
          # @return [Hash{String=>Object}] desk address => value
          def from_plan(show)
            mixing = show.profile.mixing
            taps, groups = mixing.send_taps.size > 1, mixing.subgroups
            return {} unless taps || groups

            show.channels.each_value.with_object({}) do |channel, found|
              found.merge!(channel.memo(:mix_sends, show.buses, mixing) { of_channel(channel, show.buses, taps, groups) })
            end
          end

          # @param show [Settings::Show]   @param mirror [Hash{String=>Object}] desk address => value
          # @return [Hash{String=>Object}] path => value in the plan's form, as far as the mirror knows
          def to_plan(show, mirror)
            show.channels.each_value.with_object({}) do |channel, found|
              at = "strip/#{channel.number}/bus"
              found["channel/#{channel.number}/groups"] = groups(show, mirror, at) if mirror.key?("#{at}/1/on")
              found["channel/#{channel.number}/send_taps"] = taps(show, mirror, at, channel) if mirror.key?("#{at}/1/tap")
            end
          end

          private

          def of_channel(channel, buses, taps, groups)
            buses.each_value.with_object({}) do |bus, found|
              at = "strip/#{channel.number}/bus/#{bus.number}"
              found["#{at}/tap"] = channel.send_taps.fetch(bus.number.to_s, bus.tap) if taps
              found["#{at}/on"] = channel.groups.include?(bus.number) ? 1 : 0 if groups
            end
          end

          def groups(show, mirror, at) = show.buses.keys.select { |bus| mirror["#{at}/#{bus}/on"] == 1 }

          # A tap that is the bus' own is named only where the plan names it.
          def taps(show, mirror, at, channel)
            show.buses.each_value.with_object({}) do |bus, found|
              key = bus.number.to_s
              tap = mirror["#{at}/#{bus.number}/tap"] or next
              found[key] = tap if tap != bus.tap || channel.send_taps.key?(key)
            end
          end
        end
      end
    end
  end
end
