# frozen_string_literal: true

module Loomshuttle
  module Steps
    # Completes an edit of single cells on a desk that patches in blocks with everything that has to move along, so that it can be previewed and
    # applied as a whole.
    class Completed
      WAYS = %w[slot block].freeze

      # @param show [Settings::Show]
      # @param settings [Hash{String=>Object}]
      # @param moving ["slot", "block"] whether a single stage source uses a free slot while there is one, or moves its
      #   whole block
      # @return [Hash{String=>Object}] the settings, and those that move with them
      # @raise [Invalid] if no block can start so that the channel gets its source
      def self.settings(show, settings, moving: "slot")
        return settings if show.profile.stage_block == 1 && show.profile.take_block == 1

        new(show, settings, moving).settings
      end

      # @param label [String] what the edit does, in words
      # @return [Settings::Edit, nil] with what moves along; nil if impossible
      def self.edit(show, label, settings)
        Settings::Edit.set(label, settings(show, settings)).tap { |edit| edit.apply(show) }
      rescue Invalid
        nil
      end

      def initialize(show, settings, moving)
        @show = show
        @given = settings
        @moving = moving
        @after = Settings::Ordering.sort(settings).reduce(show) { |now, (path, value)| now.put(path, value) }
      end

      def settings
        more = @show.profile.stage_block > 1 ? idle_along : {}
        more.merge!(runs(:stage)) if @show.profile.stage_block > 1 && (@moving == "block" || no_slot_left?)
        more.merge!(runs(:take)) if @show.profile.take_block > 1
        more.merge!(positions) if @show.profile.flip == "block"
        @given.merge(more)
      end

      private

      # Idle channels of a block follow it, so that they take no free slots.
      def idle_along
        first = Settings::Blocks.derive(@after, :stage).first
        blocks = Settings::Blocks.new(@after, :stage)
        blocks.members.each.with_index(1).with_object({}) do |(members, block), more|
          next unless first[block] && members.any? { |number| @given.key?("channel/#{number}/stage") }

          members.each_with_index { |number, at| more["channel/#{number}/stage"] = blocks.run(first[block], at)&.name if idle?(number) }
        end
      end

      def idle?(number)
        channel = @after.channels[number]
        channel.stage.nil? && channel.name.empty? && !channel.fixed && !@given.key?("channel/#{number}/stage")
      end

      def no_slot_left?
        now = Settings::Ordering.sort(idle_along).reduce(@after) { |show, (path, value)| show.put(path, value) }
        Settings::Blocks.derive(now, :stage).free.size > @show.profile.free_slots
      end

      # Channels whose field the edit sets, by block.
      def touched(field)
        numbers = @given.keys.filter_map { |path| path[%r{\Achannel/(\d+)/#{field}\z}, 1]&.to_i }
        Settings::Blocks.new(@after, field == :position ? :take : field).members.filter_map do |members|
          hit = members & numbers
          [members, hit.last] unless hit.empty?
        end
      end

      def runs(field)
        blocks = Settings::Blocks.new(@after, field)
        touched(field).each_with_object({}) do |(members, number), more|
          point = @after.channels[number][field]
          first = blocks.base(point, members.index(number))
          raise Invalid.new(unreachable(number, point, field), where: "channel/#{number}/#{field}") if point && !first

          members.each_with_index { |member, at| more["channel/#{member}/#{field}"] = blocks.run(first, at)&.name }
        end
      end

      def unreachable(number, point, field)
        size = field == :stage ? @show.profile.stage_block : @show.profile.take_block
        "#{@show.profile.name} moves #{field} sources in blocks of #{size}: no block can start so that channel #{number} hears #{Rig::Label.for(point)}."
      end

      def positions
        touched(:position).each_with_object({}) do |(members, number), more|
          members.each { |member| more["channel/#{member}/position"] = @after.channels[number].position }
        end
      end
    end
  end
end
