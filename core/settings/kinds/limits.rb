# frozen_string_literal: true

module Loomshuttle
  module Settings
    # Limits of a desk that concern several settings at once: blocks that must stay together, more individual sources than free slots, and part of a
    # block flipped.
    module Limits
      # @param show [Show]
      # @raise [Invalid]
      def self.check(show)
        profile = show.profile
        free_sources(show) if profile.stage_block > 1
        take_runs(show) if profile.take_block > 1
        positions(show) if profile.flip == "block"
      end

      # @return [Hash{String=>Object}] settings that bring a show within the limits: channels that would leave their block stay
      #   with it, and parts of blocks go back to stage
      def self.mend(show)
        profile = show.profile
        stage = profile.stage_block > 1 ? runs(show, :stage).drop(profile.free_slots).to_h : {}
        take = profile.take_block > 1 ? runs(show, :take) : {}
        mixed = profile.flip == "block" ? show.channels.values.select { |channel| channel.position == "take" } : []
        stage.merge(take, mixed.to_h { |channel| ["channel/#{channel.number}/position", "stage"] })
      end

      class << self
        private

        # What each channel that differs from its block would hear with it.
        def runs(show, field)
          blocks, derived = Blocks.new(show, field), Blocks.derive(show, field)
          blocks.members.each.with_index(1).with_object({}) do |(numbers, block), found|
            numbers.each_with_index { |number, at| found["channel/#{number}/#{field}"] = blocks.run(derived.first[block], at)&.name if derived.free.key?(number) }
          end
        end

        def free_sources(show)
          free = Blocks.derive(show, :stage).free
          slots = show.profile.free_slots
          return if free.size <= slots

          refuse(free.keys.last, "stage", "#{free.size} channels would hear another source than their block of #{show.profile.stage_block}, " \
                                          "and #{show.profile.name} has #{slots.zero? ? 'no' : slots} free slots")
        end

        def take_runs(show)
          free = Blocks.derive(show, :take).free
          return if free.empty?

          refuse(free.keys.first, "take", "on #{show.profile.name} take sources run in blocks of #{show.profile.take_block}, and channel #{free.keys.first} would leave its block")
        end

        def positions(show)
          mixed = Blocks.new(show, :take).members.find { |numbers| numbers.map { |number| show.channels[number].position }.uniq.size > 1 } or return
          refuse(mixed.first, "position", "on #{show.profile.name} channels #{mixed.first} to #{mixed.last} flip together")
        end

        def refuse(number, field, why) = raise(Invalid.new("#{why.sub(/\A./, &:upcase)}.", where: "channel/#{number}/#{field}"))
      end
    end
  end
end
