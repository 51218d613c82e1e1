# frozen_string_literal: true

module Loomshuttle
  module Web
    module Desk
      # Settings of the plan in the desk's own words and back (docs/desk-control.md). Tracks and the recorder's setup
      # are none of the desk's business and have no words here.
      module Words
        CHANNEL = { name: "label", short: "label/short", colour: "dye", stage: "stage", take: "take", position: "hears", gain: "gain" }.freeze

        # @param path [String] of a setting
        # @return [String, nil] the desk's address, nil where the desk has none
        def self.address(path)
          kind, number, field = path.split("/")
          case kind
          when "channel" then "strip/#{number}/#{CHANNEL.fetch(field.to_sym)}"
          when "send" then "card/send/#{number}/#{field == 'source' ? 'from' : 'tap'}"
          when "setup" then number == "card_mode" ? "card/mode" : nil
          end
        end

        # @return [Object] a setting's value as the desk takes it
        def self.to_desk(path, value)
          case path
          when %r{/(stage|source)\z} then value.to_s.delete_prefix("desk/")
          when %r{/take\z} then value.to_s.sub("card/return/", "card/")
          when %r{/gain\z} then value.to_f
          else value
          end
        end

        # @return [Object] the desk's value as the plan keeps it
        def self.from_desk(path, value)
          case path
          when %r{/(stage|source)\z} then value == "" ? nil : "desk/#{value}"
          when %r{/take\z} then value == "" ? nil : value.sub("card/", "card/return/")
          when %r{/gain\z} then value == value.round ? value.round : value
          else value
          end
        end

        # @param show [Patch::Show]
        # @return [Hash{String=>Object}] desk address => value, for all of the plan that the desk knows
        def self.plan(show)
          show.settings.filter_map { |path, value| [address(path), to_desk(path, value)] if address(path) }.to_h
        end
      end
    end
  end
end
