# frozen_string_literal: true

module Loomshuttle
  module Steps
    # Lines of an input list that are both sides of a source ("Keys L/R", "13/14"). Such a line becomes one line for a stereo channel, or two
    # for a pair of mono channels, "Keys L" and "Keys R", with two neighbouring sockets.
    class EntrySides
      # @param show [Settings::Show]   @param entries [Array<Formats::InputList::Entry>]
      # @return [Array<Formats::InputList::Entry>] none of which needs two mono channels
      def self.of(show, entries) = entries.none?(&:stereo) ? entries : new(show, entries).spread

      def initialize(show, entries)
        @show, @entries = show, entries
        @by_name = show.channels.values.reject { |channel| channel.name.empty? }.to_h { |channel| [channel.name.downcase, channel.number] }
        @wide = show.channels.values.select do |channel|
          channel.name.empty? && !channel.fixed && wide?(channel.number)
        end.map(&:number) - entries.reject(&:stereo).filter_map(&:channel)
      end

      def spread = @entries.flat_map { |entry| entry.stereo ? sides(entry) : [entry] }

      private

      def wide?(number) = @show.channels.key?(number) && @show.profile.strip(number).width == 2

      # A channel of that name, or of that number, decides; else a stereo channel that is free.
      def sides(entry)
        known = @by_name[entry.name.downcase]
        return [entry] if known && wide?(known)
        return two(entry) if known || @by_name[side(entry.name, "L").downcase]
        return [entry].tap { @wide.delete(entry.channel) } if wide?(entry.channel)

        number = @wide.shift unless entry.channel
        number ? [entry.with(channel: number)] : two(entry)
      end

      def two(entry)
        short = entry.short.empty? ? ["", ""] : %w[L R].map { |letter| "#{entry.short[0, Settings::SHORT - 1].strip}#{letter}" }
        left = entry.with(name: side(entry.name, "L"), short: short.first, stereo: false)
        [left, entry.with(name: side(entry.name, "R"), short: short.last, stereo: false, channel: entry.channel && (entry.channel + 1), socket: entry.socket&.beside(1))]
      end

      def side(name, letter) = "#{name[0, Settings::NAME - 2].strip} #{letter}"
    end
  end
end
