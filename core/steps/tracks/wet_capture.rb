# frozen_string_literal: true

module Loomshuttle
  module Steps
    # Adds processed tracks beside the dry ones: a second card send from each channel, tapped after EQ and dynamics and before the fader, to a track
    # named after the dry one. Processed tracks have no returns.
    class WetCapture
      TAPS = %w[pre-fader post-eq post-fader].freeze

      # @param show [Settings::Show]   @param channels [Array<Integer>]
      # @return [Settings::Edit]
      # @raise [Invalid] if a channel, lane or track is missing, or the channel is already captured this way
      def self.edit(show, channels) = new(show, channels).edit

      def initialize(show, channels)
        @show, @channels = show, channels.uniq
        @desk = show.profile
        taken = show.tracks.values.flat_map(&:inputs)
        @lanes = (1..[show.card_lanes, @desk.sends].min).select { |lane| show.sends[lane].source.nil? && !taken.include?(lane) }
        @tracks = show.tracks.values.select(&:free?).map(&:number)
      end

      def edit
        refuse("Choose the channels that are to be captured as they are processed.", "channels") if @channels.empty?
        unknown = @channels.find { |number| !@show.channels.key?(number) }
        refuse("There is no channel #{unknown}.", "channels") if unknown
        Settings::Edit.set("Capture #{@channels.size == 1 ? title(@channels.first) : "#{@channels.size} channels"} processed as well",
                           @channels.reduce({}) { |all, number| all.merge(one(number)) })
      end

      private

      def one(number)
        channel = @show.channels[number]
        points = @desk.channel_points(number)
        tap = TAPS.find { |one| @desk.taps_of(points.first).include?(one) } or refuse("The #{@desk.name} has no post-EQ tap for card sends.", "channels")
        refuse("#{channel.title} is captured at #{Rig::Label::TAPS.fetch(tap)} already.", "channels") if captured?(points.first, tap)

        lanes = free_lanes(points.size)
        track = @tracks.shift or refuse("No track is free for #{channel.title}.", "tracks")
        sends = lanes.zip(points).flat_map { |lane, point| [["send/#{lane}/source", point.name], ["send/#{lane}/tap", tap]] }.to_h
        sends.merge("track/#{track}/stereo" => points.size == 2, "track/#{track}/inputs" => lanes, "track/#{track}/outputs" => [], "track/#{track}/armed" => true,
                    "track/#{track}/name" => "#{title(number)[0, Settings::NAME - 4]} wet")
      end

      # As its dry track is called.
      def title(number)
        points = @desk.channel_points(number)
        lane = @show.sends.values.find { |send| points.include?(send.source) }&.lane
        track = lane && @show.tracks.values.find { |one| one.inputs.include?(lane) && one.inputs.size == points.size }
        track ? @show.title_of(track) : @show.channels[number].title
      end

      def captured?(point, tap) = @show.sends.values.any? { |send| send.source == point && @show.tap_of(send) == tap }

      # A stereo channel needs an odd lane and the next one.
      def free_lanes(width)
        first = width == 1 ? @lanes.first : @lanes.find { |lane| lane.odd? && @lanes.include?(lane + 1) }
        first or refuse("No #{width == 1 ? 'card send is' : 'pair of card sends is'} free.", "sends")
        (first...(first + width)).to_a.each { |lane| @lanes.delete(lane) }
      end

      def refuse(why, where) = raise(Invalid.new(why, where: where))
    end
  end
end
