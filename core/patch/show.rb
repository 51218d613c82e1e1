# frozen_string_literal: true

module Loomshuttle
  module Patch
    # One engagement as a frozen value: the desk's profile, words about it, and every setting. A setting has a path
    # ("channel/7/stage", "send/3/tap", "track/1/inputs", "setup/buffer"); all edits, stores and comparisons speak in
    # these paths.
    Show = Value.define(:profile, :about, :channels, :sends, :tracks, :setup) do
      # A show with nothing patched.
      # @param profile [Rig::Profile]
      # @param about [Hash] :name, :act, :place, :date
      def self.blank(profile, about)
        new(profile: profile, about: about.freeze,
            channels: numbered(profile.strips.size) { |n| blank_channel(profile, n) },
            sends: numbered(profile.sends) { |n| CardSend.new(lane: n, source: nil, tap: profile.taps.first) },
            tracks: numbered(profile.sends) { |n| blank_track(n) },
            setup: Setup.new(card_mode: profile.card_modes.keys.first, buffer: 1024, bits: 24))
      end

      # A show from stored settings; paths that are not stored keep their blank value.
      # @param settings [Hash{String=>Object}] path => JSON value
      # @raise [Invalid] for a path or value the desk does not have
      def self.load(profile, about, settings)
        Edit.set("Load", settings).apply(blank(profile, about)).first
      end

      def self.numbered(count) = (1..count).to_h { |n| [n, yield(n)] }.freeze

      def self.blank_channel(profile, number)
        gain = [profile.strip(number).preamp.min_db, 0].max
        Channel.new(number: number, name: "", short: "", colour: "iron", stage: nil, take: nil, position: "stage",
                    gain: gain)
      end

      def self.blank_track(number)
        Track.new(number: number, name: "", stereo: false, inputs: [].freeze, outputs: [].freeze, armed: false)
      end

      # @param path [String]
      # @return [Object] the setting's JSON value
      # @raise [Invalid] when the show has no such setting
      def get(path)
        place = Place.parse(self, path)
        place.item[place.field]
      end

      # @return [Show] with one setting changed
      # @raise [Invalid] when the show has no such setting, or the value does not fit it
      def put(path, value)
        place = Place.parse(self, path)
        changed = place.item.with(place.field => Rules.check(self, place, value))
        return with(setup: changed) if place.group == :setup

        with(place.group => send(place.group).merge(place.number => changed).freeze)
      end

      # @return [Hash{String=>Object}] every setting by path, in order
      def settings
        Place.all(self).to_h { |path| [path, get(path)] }
      end

      # @return [Integer] lanes the card carries each way in the mode that is set
      def card_lanes = profile.lanes_in(setup.card_mode)

      # @return [Channel, nil] the channel that owns a base point such as "desk/ch/17/l"
      def channel_at(base)
        match = %r{\Adesk/ch/(\d+)}.match(base.to_s)
        match && channels[match[1].to_i]
      end

      # @return [Integer] samples a second
      def rate = profile.rate
    end
  end
end
