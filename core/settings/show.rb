# frozen_string_literal: true

module Loomshuttle
  module Settings
    CHANNEL_POINT = "desk/ch/"

    # One engagement as a frozen value: words about it, the profiles at hand, and every setting. A setting has a path
    # ("rig/desk", "box/a/port", "channel/7/stage", "send/3/tap", "track/1/inputs"); all edits, stores and comparisons
    # speak in these paths. `layout` is what the rig comes to; it is derived anew whenever the rig changes.
    Show = Value.define(:catalog, :about, :rig, :boxes, :channels, :sends, :tracks, :outputs, :outlets, :buses, :setup, :layout) do
      # A show with nothing patched.
      # @param catalog [Rig::Catalog]
      # @param about [Hash] :name, :act, :place, :date
      # @param desk [String] id of the desk's profile
      # @raise [Invalid] when there is no such desk
      def self.blank(catalog, about, desk:)
        profile = catalog.fetch("desk", desk)
        boxes = Blank.boxes
        new(catalog: catalog, about: about.freeze, rig: Blank.rig(profile), boxes: boxes, **Blank.groups(profile),
            layout: Rig::Layout.new(profile, boxes, catalog, profile.rate))
      end

      # A show from stored settings; paths that are not stored keep their blank value.
      # @param settings [Hash{String=>Object}] path => JSON value, "rig/desk" among them
      # @raise [Invalid] for a path or value the rig does not have
      def self.load(catalog, about, settings)
        desk = settings["rig/desk"] or raise Invalid.new("The show names no desk.", where: "rig/desk")
        Edit.set("Load", settings.except("rig/desk")).apply(blank(catalog, about, desk: desk)).first
      end

      # @param path [String]
      # @return [Object] the setting's JSON value
      # @raise [Invalid] when the show has no such setting
      def get(path)
        place = Path.parse(self, path)
        place.item[place.field]
      end

      # @return [Show] with one setting changed
      # @raise [Invalid] when the show has no such setting, or the value does not fit it
      def put(path, value)
        place = Path.parse(self, path)
        kept = Rules.check(self, place, value)
        return Refit.to(self, kept) if path == "rig/desk"

        changed = place.item.with(place.field => kept)
        return with(setup: changed) if place.group == :setup
        return laid_out(rig: changed) if place.group == :rig

        group = { place.group => send(place.group).merge(place.number => changed).freeze }
        place.group == :boxes ? laid_out(**group) : with(**group)
      end

      # @return [Hash{String=>Object}] every setting by path, in order
      def settings
        all = {}
        Settings::SINGLES.each { |kind, group| Settings::FIELDS[group].each { |field| all["#{kind}/#{field}"] = send(group)[field] } }
        Settings::GROUPS.each do |kind, group|
          send(group).each { |key, item| Settings::FIELDS[group].each { |field| all["#{kind}/#{key}/#{field}"] = item[field] } }
        end
        all
      end

      # @return [Hash{String=>Object}] settings that are not as in a blank show; "rig/desk" is always among them
      def set_settings
        blank = Show.blank(catalog, about, desk: rig.desk).settings
        settings.reject { |path, value| path != "rig/desk" && blank[path] == value }
      end

      # @return [Rig::Desk]
      def profile = layout.desk

      # @return [Integer] lanes the card carries each way in the mode that is set
      def card_lanes = profile.lanes_in(setup.card_mode)

      # @return [Channel, nil] the channel that owns a base point such as "desk/ch/17/l"
      def channel_at(base) = base&.start_with?(CHANNEL_POINT) ? channels[base[CHANNEL_POINT.size..].to_i] : nil

      # @return [Integer] samples a second
      def rate = rig.rate

      # @param send [CardSend]
      # @return [String] the tap where it is taken: its own, or the show's, or what a mix has
      def tap_of(send)
        tap = send.tap || setup.default_tap
        taps = send.source ? profile.taps_of(send.source) : profile.taps
        return tap if taps.include?(tap)

        taps.include?("post-fader") ? "post-fader" : taps.first
      end

      # @return [String, nil] the point that a send takes, e.g. "desk/ch/7@preamp"
      def point_of(send) = send.source && "#{send.source}@#{tap_of(send)}"

      # @return [String] a track's own name, or its source's, or its number
      def title_of(track) = Inherited.title(self, track)

      # @return [String] a track's own dye, or its source's
      def dye_of(track) = Inherited.dye(self, track)

      # @return [String] words for a base point or socket, with the name it was given
      def label(point)
        bus = %r{\Adesk/bus/(\d+)\z}.match(point.to_s)
        name = bus ? buses[bus[1].to_i].name : channel_at(point)&.name
        [Rig::Label.for(point), name].compact.reject(&:empty?).join(" ")
      end

      def laid_out(**changes)
        changed = with(**changes)
        changed.with(layout: Rig::Layout.new(profile, changed.boxes, catalog, changed.rig.rate))
      end
      private :laid_out
    end
  end
end
