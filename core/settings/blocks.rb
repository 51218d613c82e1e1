# frozen_string_literal: true

module Loomshuttle
  module Settings
    # Desks that patch their channels in blocks: the source each block starts with, and channels with another source through a free slot. Derived
    # from the channels' sources, so a channel's cell always shows its true source.
    #
    #   Blocks.derive(show, :stage)  # blocks of 8: first {1 => link/a/up/1, 2 => link/a/up/9}, free {}
    #   # After channel 3 is patched to lane 20, it no longer fits its block and takes a free slot:
    #   Blocks.derive(show, :stage)  # first {1 => link/a/up/1, 2 => link/a/up/9}, free {3 => link/a/up/20}
    class Blocks
      # first: source of the block's first channel, or nil for a silent block. free: channel => source (or nil), for
      # channels that differ from their block.
      Derived = Value.define(:first, :free)

      # @param show [Show]
      # @param field [:stage, :take]
      # @return [Derived] `first` by block number, from 1; empty for a desk that patches channel by channel
      def self.derive(show, field) = new(show, field).derive

      # @return [Array<Integer>] channels whose stage source uses a free slot (the desk chooses which)
      def self.single(show) = show.profile.free_slots.zero? ? [] : derive(show, :stage).free.keys

      # @param before [Show]  @param after [Show]
      # @return [Array<String>] sentences that name the channels which an edit patches through a free slot
      def self.newly_single(before, after)
        now = single(after)
        (now - single(before)).map { |number| "#{after.channels[number].title} takes a free slot; #{after.profile.free_slots - now.size} left." }
      end

      # @param show [Show]  @param field [:stage, :take]
      def initialize(show, field)
        @show = show
        @field = field
        @size = field == :stage ? show.profile.stage_block : show.profile.take_block
        @known = show.profile.known(field == :stage ? :stage_points : :return_points)
      end

      # @return [Array<Array<Integer>>] channel numbers of each block; empty for a desk that patches channel by channel
      def members = @size == 1 ? [] : @show.channels.keys.each_slice(@size).to_a

      def derive
        first, free = {}, {}
        members.each.with_index(1) do |numbers, block|
          first[block] = numbers.flat_map.with_index { |number, at| [base(source(number), at)] }.uniq.max_by { |one| agreeing(numbers, one) }
          numbers.each_with_index { |number, at| free[number] = source(number) unless run(first[block], at) == source(number) }
        end
        Derived.new(first: first, free: free)
      end

      # @param first [Rig::Point, nil]
      # @return [Rig::Point, nil] source of the channel at a place of the block, if the block starts at `first`
      def run(first, at)
        point = first&.beside(at)
        @known.include?(point) ? point : nil
      end

      # @param point [Rig::Point, nil]
      # @return [Rig::Point, nil] source at which the block must start so that the channel at that place gets `point`; nil if there is none
      def base(point, at)
        first = point&.beside(-at)
        first && (first.number % @size) == 1 % @size ? first : nil
      end

      private

      def source(number) = @show.channels[number][@field]
      def agreeing(numbers, first) = numbers.each_with_index.count { |number, at| run(first, at) == source(number) }
    end
  end
end
