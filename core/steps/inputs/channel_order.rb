# frozen_string_literal: true

module Loomshuttle
  module Steps
    # A revised input list that has known sources at other channel numbers: each channel moves with all of its settings, and what refers to it follows.
    # Levels at the desk are not part of the plan, and stay where they are.
    class ChannelOrder
      TITLE = "New channel order"
      REFERENCE = %r{\A(desk/ch/|channel/)(\d+)(?=/|\z)}
      # Findings that are named after a channel.
      FINDING = %r{\A((?:channel-without-socket|missing-socket|pair-apart)/)(\d+)(?=/|\z)}
      private_constant :REFERENCE, :FINDING

      # @param show [Settings::Show]   @param entries [Array<Formats::InputList::Entry>]
      # @return [ChannelOrder, nil] nil where no channel moves, or where the desk cannot patch what would
      def self.of(show, entries)
        order = new(show, entries)
        order unless order.moves.empty? || order.show.nil?
      end

      # @return [Hash{Integer=>Integer}] channel => where it goes
      attr_reader :moves
      # @return [Settings::Show, nil] the show with the channels moved; nil if that is impossible
      attr_reader :show

      def initialize(show, entries)
        @before = show
        @moves = wanted(EntrySides.of(show, entries))
        nil until settled?
        @show = made unless @moves.empty?
      end

      # @return [Hash{String=>Object}] settings that differ from the present ones
      def settings = @settings ||= channels.merge(references).reject { |path, value| @before.get(path) == value }

      # @return [String] for people: "Fiddle from 3 to 5 and Tuba from 4 to 3"
      def note = Text.list(@moves.map { |from, to| "#{@before.channels[from].name} from #{from} to #{to}" })

      private

      # Not where a desk that patches in blocks would give other channels in use another source.
      def made
        whole = Completed.settings(@before, settings)
        others = (whole.keys - settings.keys).map { |path| @before.channels[path[%r{\Achannel/(\d+)/}, 1].to_i] }
        Settings::Edit.set(TITLE, whole).apply(@before).first if others.compact.none?(&:used?)
      rescue Invalid
        nil
      end

      def wanted(entries)
        named = @before.channels.values.reject { |channel| channel.name.empty? }.group_by { |channel| plain(channel.name) }
        pairs = entries.select(&:channel).group_by { |entry| plain(entry.name) }.filter_map do |name, list|
          [named[name].first.number, list.first.channel] if list.size == 1 && named[name]&.size == 1
        end
        pairs.to_h.reject { |from, to| from == to }
      end

      def plain(name) = name.downcase.gsub(/[^[:alnum:]]+/, " ").strip

      # Leaves out one move that cannot be; what another one has made impossible is left out in the next round.
      # @return [Boolean] whether there was none
      def settled?
        bad = @moves.find { |from, to| !fits?(from, to) } or return true
        @moves.delete(bad.first)
        false
      end

      def fits?(from, to)
        target = @before.channels[to]
        return false if target.nil? || [from, to].any? { |number| @before.channels[number].fixed } || @moves.key(to) != from
        return false unless width(from) == width(to) && (!target.used? || @moves.key?(to))

        paired?(from, to)
      end

      # A pair moves as a whole, to an odd channel and the next one; and nobody moves between the sides of one that stays.
      def paired?(from, to)
        left, right = @before.channels[from], @before.channels[from - 1]
        return to.odd? && @moves[from + 1] == to + 1 if left.paired
        return @moves[from - 1] == to - 1 if right&.paired

        other = to.even? ? to - 1 : to
        !@before.channels[other]&.paired || @moves.key?(other)
      end

      def width(number) = @before.profile.strip(number).width

      # Every setting of a channel at its new number; a number that nobody takes is blank.
      def channels
        collection = Settings.collection("channel")
        before = @before.settings
        left = (@moves.keys - @moves.values).to_h { |number| [number, nil] }
        @moves.invert.merge(left).each_with_object({}) do |(to, from), all|
          blank = collection.blank_settings(@before.profile, to)
          blank.each { |path, value| all[path] = from ? before.fetch(collection.path(from, path[%r{[^/]+\z}]), value) : value }
        end
      end

      def references
        @before.settings.reject { |path, _| path.start_with?("channel/") }.transform_values { |value| moved(value) }
      end

      def moved(value)
        case value
        when String then value.sub(REFERENCE) { "#{Regexp.last_match(1)}#{@moves.fetch(Regexp.last_match(2).to_i, Regexp.last_match(2))}" }
        when Array then value.all?(String) ? value.map { |one| moved(one) } : value
        when Hash then value.transform_keys { |key| key.to_s.sub(FINDING) { "#{Regexp.last_match(1)}#{@moves.fetch(Regexp.last_match(2).to_i, Regexp.last_match(2))}" } }
        else value
        end
      end
    end
  end
end
