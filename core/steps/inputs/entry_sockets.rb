# frozen_string_literal: true

module Loomshuttle
  module Steps
    # The socket for each line of an input list: the one in the list if it is free, given up by another line, or shared with one; otherwise the
    # channel's present one, otherwise a free one.
    class EntrySockets
      # @param show [Settings::Show]   @param channels [Hash{Formats::InputList::Entry=>Integer}] as EntryChannels chose them
      def initialize(show, channels)
        @show, @channels = show, channels
        @unmet, @leads = [], {}
        @heard = staying.to_h { |entry| [entry.socket, entry.name] }
        @free = Available.new(show, promised: channels.keys.filter_map(&:socket), leaving: leaving)
        @heard.each_key { |point| @free.asked(point) }
      end

      # @return [Available] what is free still
      attr_reader :free

      # @return [Array<Array(Formats::InputList::Entry, String, Symbol)>] entry, a sentence about what it asks for and does not get, and the remark's kind
      attr_reader :unmet

      # @param right [Formats::InputList::Entry, nil] the other side of a pair, whose left one the line is; it follows directly
      # @return [Rig::Point, nil] the new stage source of the line's channel
      def socket(entry, right = nil)
        channel = channel_of(entry)
        return channel.stage if settled?(entry, channel)

        @free.neighbours(channel.number, entry.socket, right.socket, spot: entry.spot) if right && !channel_of(right).stage
        point = @free.socket(channel.number, wanted: entry.socket, spot: entry.spot)
        miss(entry, point ? label(point) : "no socket") unless [nil, point].include?(entry.socket)
        tell_other(entry, point)
        point
      end

      # If two lines share a socket, the first decides the preamp.
      # @param point [Rig::Point, nil] stage source of the line's channel
      # @return [Hash{Symbol=>Object}] :gain and :phantom of its preamp; nil for what no line mentions
      def preamp(entry, point)
        own = { gain: entry.gain, phantom: entry.phantom }
        first = point ? @leads[point] ||= entry : entry
        return own if first.equal?(entry)

        theirs = { gain: first.gain, phantom: first.phantom }.compact
        differs = own.any? { |field, value| value && theirs.fetch(field, value) != value } # a cell that is empty asks for nothing
        @unmet << [entry, "#{entry.name} has the preamp of #{first.name}, whose gain and 48 V are taken", :shared] if differs
        own.merge(theirs)
      end

      # @return [String] a socket in words
      def label(point) = Rig::Label.for(@show.layout.socket_of(point))

      private

      def channel_of(entry) = @show.channels[@channels[entry]]

      # Lines whose channel hears already what they ask for.
      def staying = @channels.keys.select { |entry| entry.socket && entry.socket == channel_of(entry).stage }

      # A socket that is there and was not asked away stays; so does one where the other cannot be had.
      def settled?(entry, channel)
        return false unless channel.stage && @show.layout.source(channel.stage).missing.nil?
        return true if [nil, channel.stage].include?(entry.socket)
        return false if channel.name.empty? || @free.obtainable?(entry.socket)

        miss(entry, label(channel.stage))
        true
      end

      # Channels whose line asks for another socket, which nobody has who stays there unasked.
      # @return [Array<Integer>]
      def leaving
        wants = @channels.select { |entry, number| moves?(entry, @show.channels[number]) }.to_h { |entry, number| [number, entry.socket] }
        loop do
          held = @show.channels.values.reject { |channel| channel.name.empty? || wants.key?(channel.number) }.filter_map(&:stage)
          kept = wants.reject { |_, socket| held.include?(socket) && !@heard.key?(socket) }
          return wants.keys if kept.size == wants.size

          wants = kept
        end
      end

      def moves?(entry, channel) = entry.socket && entry.socket != channel.stage && !channel.name.empty? && !channel.fixed

      def miss(entry, given) = @unmet << [entry, "#{entry.name} gets #{given}, not #{label(entry.socket)}: that one is taken, or it has one already", :taken]

      def tell_other(entry, point)
        other = @heard[point] if point
        @unmet << [entry, "#{entry.name} hears #{label(point)} as well as #{other}, as another treatment of the same sound", :shared] if other
        @heard[point] = entry.name if point
      end
    end
  end
end
