# frozen_string_literal: true

module Loomshuttle
  module Signal
    # Finds the strands that an edit breaks.
    module Broken
      # name of the strand, and what it loses: its socket, its track, or its way back
      Loss = Value.define(:name, :channel, :lost)

      # @param before [Checks::Context]  @param after [Checks::Context]
      # @return [Array<Loss>] in the order of the channels
      def self.between(before, after)
        now = whole(after)
        whole(before).filter_map do |channel, had|
          lost = had.reject { |what| now.fetch(channel, []).include?(what) }
          Loss.new(name: before.show.label(channel), channel: channel, lost: lost) unless lost.empty?
        end
      end

      class << self
        private

        def counted?(show, channel, strands) = channel && (strands.any?(&:track) || show.channel_at(channel)&.name.to_s != "")

        # What each channel that anybody counts on has of a whole strand; others only came along with their block.
        def whole(context)
          context.strands.group_by(&:channel).select { |channel, strands| counted?(context.show, channel, strands) }.transform_values do |strands|
            [("its socket" if strands.any? { |strand| context.sockets[strand.socket] }), ("its track" if strands.any?(&:track)),
             ("its way back" if strands.any?(&:comes_home?))].compact
          end
        end
      end
    end
  end
end
