# frozen_string_literal: true

module Loomshuttle
  module Checks
    # Existing sockets that no named channel uses.
    module FreeSocket
      # @param show [Settings::Show]  @param channel [Settings::Channel]
      # @return [Array<Views::Choices::Choice>] free stage sources that the channel could hear
      def self.choices(show, channel)
        taken = show.channels.values.filter_map { |other| other.stage unless other.name.empty? && !other.fixed }.to_h { |point| [point.name, true] }
        Views::Choices.for(show, "hears_on_stage", channel.number).select do |choice|
          name = choice.settings.values.first
          choice.missing.nil? && name && !taken[name] && !Rig::Point.of(name).card? && !show.profile.digital?(Rig::Point.of(name))
        end
      end

      # @yieldparam choices [Array<Views::Choices::Choice>] as choices
      # @yieldreturn [Views::Choices::Choice, nil] the one to take; without a block, the first
      # @return [Settings::Edit, nil] patches the channel to that source; nil if none is free
      def self.fix(show, channel)
        free = choices(show, channel)
        choice = (yield(free) if block_given?) || free.first or return
        Steps::Completed.edit(show, "Patch #{choice.label} to #{channel.title}", choice.settings)
      end
    end
  end
end
