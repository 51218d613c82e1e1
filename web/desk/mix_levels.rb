# frozen_string_literal: true

module Loomshuttle
  module Web
    module Desk
      # What the desk is mixed to, as Signal::MixedLevels names it. Nobody plans that: it is the mixing engineer's.
      module MixLevels
        MUTE = %r{/mute\z}
        SEND = %r{\Achannel/(\d+)/send/(\d+)\z}

        class << self
          # @param desk [Rig::Desk]
          # @return [Array<String>] names of all values that such a desk may have
          def names(desk) = desk.memo(:mix_level_names) { (desk.strips.flat_map { |strip| channel(desk, strip.number) } + mixes(desk) + outputs(desk)).freeze }

          # @param name [String] of a value
          # @return [String] the desk's address for it
          def address(name)
            return "strip/#{Regexp.last_match(1)}/bus/#{Regexp.last_match(2)}" if SEND =~ name

            name.sub(/\Achannel/, "strip")
          end

          # @param mirror [Hash{String=>Object}] desk address => value
          # @return [Hash{String=>Object}] name => value, as far as the mirror tells; what a desk cannot do it does not do
          def read(desk, mirror)
            names(desk).each_with_object({}) do |name, found|
              value = mirror.fetch(address(name)) { missing(name) }
              found[name] = MUTE.match?(name) && !value.nil? ? value == 1 : value unless value.nil?
            end
          end

          # @return [Object] a value as the desk keeps it
          def to_desk(value) = { true => 1, false => 0 }.fetch(value) { value.to_f }

          private

          def channel(desk, number)
            at = "channel/#{number}"
            ["#{at}/fader", "#{at}/mute", "#{at}/pan"] + (1..desk.buses).map { |bus| "#{at}/send/#{bus}" }
          end

          def mixes(desk)
            buses = (1..desk.buses).flat_map { |bus| ["bus/#{bus}/fader", "bus/#{bus}/mute", "bus/#{bus}/pan"] }
            matrices = (1..desk.matrices).flat_map do |matrix|
              at = "matrix/#{matrix}"
              ["#{at}/fader", "#{at}/mute"] + desk.into_matrix.map { |base| "#{at}/#{base.kind}/#{base.number || base.side}" }
            end
            buses + %w[main/fader main/mute] + matrices
          end

          def outputs(desk) = (1..desk.mix_outputs).flat_map { |output| ["output/#{output}/trim", "output/#{output}/mute"] }

          # A desk without trims has none.
          def missing(name) = name.match?(%r{\Aoutput/\d+/trim\z}) ? 0 : nil
        end
      end
    end
  end
end
