# frozen_string_literal: true

module Loomshuttle
  module Checks
    # Sockets that are there and that no named channel hears.
    module FreeSocket
      # @param show [Settings::Show]  @param channel [Settings::Channel]
      # @return [Array<Views::Choices::Choice>] that the channel could hear
      def self.choices(show, channel)
        taken = show.channels.values.filter_map { |other| other.stage unless other.name.empty? && !other.fixed }.to_h { |point| [point.name, true] }
        Views::Choices.for(show, "hears_on_stage", channel.number).select do |choice|
          name = choice.settings.values.first
          choice.missing.nil? && name && !taken[name] && !Rig::Point.of(name).card?
        end
      end
    end
  end
end
