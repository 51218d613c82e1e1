# frozen_string_literal: true

module Loomshuttle
  module Patch
    # What can be chosen for one cell of the strand sheet, each as the settings that choosing it sets. Screens offer
    # these and post them back, and so never decide what fits.
    class Choices
      Choice = Value.define(:label, :settings, :current)
      TAKEN_FROM_MIX = "post-fader"

      # column => method; the number is a socket's or channel's place in the profile, a card lane or a track
      COLUMNS = {
        "socket_feeds" => :socket_feeds, "hears_on_stage" => :hears_on_stage, "send" => :sources, "tap" => :taps,
        "track_input" => :track_inputs, "track_output" => :track_outputs, "return_feeds" => :return_feeds,
        "hears_on_take" => :hears_on_take
      }.freeze

      # @param show [Show]
      # @param column [String] a key of COLUMNS
      # @param number [Integer]
      # @return [Array<Choice>] the first one empties the cell, where that is possible
      # @raise [Invalid] when there is no such cell
      def self.for(show, column, number)
        list = COLUMNS[column] or raise Invalid.new("There are no choices for \"#{column}\".", where: "column")
        new(show).send(list, number).map do |label, settings|
          Choice.new(label: label, settings: settings, current: settings.all? { |path, value| show.get(path) == value })
        end
      end

      def initialize(show)
        @show = show
        @profile = show.profile
        @returns = (1..@profile.returns).map { |n| "card/return/#{n}" }
      end

      private

      def socket_feeds(number)
        socket = @profile.input_sockets[number - 1] or raise Invalid.new("There is no socket #{number}.", where: "number")
        feeds("stage", socket, @profile.input_sockets)
      end

      def return_feeds(number)
        point = @returns[number - 1] or raise Invalid.new("There is no card return #{number}.", where: "number")
        feeds("take", point, @returns)
      end

      # Channels that can hear a point; choosing none takes it from all that do.
      def feeds(field, point, points)
        hearing = @show.channels.values.select { |channel| channel[field] == point }
        none = hearing.to_h { |channel| ["channel/#{channel.number}/#{field}", nil] }
        fitting = @show.channels.values.select { |channel| starts(channel.number, points).include?(point) }
        [["None", none]].reject { none.empty? } +
          fitting.map { |channel| [channel_label(channel), { "channel/#{channel.number}/#{field}" => point }] }
      end

      def hears_on_stage(number) = points("channel/#{number}/stage", number, @profile.input_sockets)
      def hears_on_take(number) = points("channel/#{number}/take", number, @returns)

      def points(path, number, known)
        @show.get(path)
        nothing(path) + starts(number, known).map { |point| [Rig::Label.for(point), { path => point }] }
      end

      # A stereo channel starts on odd lanes that have a neighbour.
      def starts(number, points)
        return points if @profile.strip(number).width == 1

        points.select { |point| point[/\d+\z/].to_i.odd? && points.include?(point.sub(/\d+\z/) { |n| (n.to_i + 1).to_s }) }
      end

      def sources(lane)
        nothing("send/#{lane}/source") + (@profile.all_channel_points + @profile.mix_points).map do |base|
          [source_label(base), { "send/#{lane}/source" => base, "send/#{lane}/tap" => fitting_tap(lane, base) }]
        end
      end

      def source_label(base) = [Rig::Label.for(base), @show.channel_at(base)&.name].compact.join(" ").strip
      def channel_label(channel) = "Channel #{channel.number} #{channel.name}".strip

      def fitting_tap(lane, base)
        taps = @profile.taps_of(base)
        tap = @show.get("send/#{lane}/tap")
        return tap if taps.include?(tap)

        taps.include?(TAKEN_FROM_MIX) ? TAKEN_FROM_MIX : taps.first
      end

      def taps(lane)
        source = @show.get("send/#{lane}/source")
        fitting = source ? @profile.taps_of(source) : @profile.taps
        fitting.map { |tap| [Rig::Label::TAPS.fetch(tap), { "send/#{lane}/tap" => tap }] }
      end

      def track_inputs(number) = lanes("track/#{number}/inputs", number, @profile.sends, "Card send")
      def track_outputs(number) = lanes("track/#{number}/outputs", number, @profile.returns, "Card return")

      def lanes(path, number, count, words)
        @show.get(path)
        width = @show.tracks[number].width
        starts = width == 1 ? (1..count) : (1...count).step(2)
        [["None", { path => [] }]] + starts.map do |lane|
          taken = (lane...(lane + width)).to_a
          ["#{words} #{taken.join(' and ')}", { path => taken }]
        end
      end

      def nothing(path) = [["None", { path => nil }]]
    end
  end
end
