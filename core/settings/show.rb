# frozen_string_literal: true

module Loomshuttle
  module Settings
    # One engagement as a frozen value: words about it, the profiles at hand, and every setting. A setting has a path
    # ("rig/desk", "box/a/port", "channel/7/stage", "send/3/tap", "track/1/inputs"); all edits, stores and comparisons
    # speak in these paths. `groups` holds the items of each collection by its group (:channels => { 1 => Channel }, :rig => RigPlan).
    # `layout` is what the rig comes to; it is derived again whenever the rig changes.
    Show = Value.define(:catalog, :about, :groups, :layout, memo: true) do
      # A new show with nothing patched.
      # @param catalog [Rig::Catalog]
      # @param about [Hash] :name, :act, :place, :date
      # @param desk [String] id of the desk's profile
      # @raise [Invalid] when there is no such desk
      def self.blank(catalog, about, desk:)
        profile = catalog.fetch("desk", desk)
        groups = Settings.collections.to_h { |collection| [collection.group, collection.blank(profile)] }.freeze
        new(catalog: catalog, about: about.freeze, groups: groups, layout: Rig::Layout.new(profile, groups.fetch(:boxes), catalog, profile.rate))
      end

      # A show from stored settings; paths that are not stored keep their initial value.
      # @param settings [Hash{String=>Object}] path => JSON value, "rig/desk" among them
      # @raise [Invalid] for a path or value that the rig does not have
      def self.load(catalog, about, settings)
        desk = settings["rig/desk"] or raise Invalid.new("The show names no desk.", where: "rig/desk")
        Edit.set("Load", Retired.out_of(settings.except("rig/desk"))).apply(blank(catalog, about, desk: desk), kept: true).first
      end

      # The items of each collection: `rig` and `setup` are one item each, the others a Hash by key.
      Settings.collections.each { |collection| class_eval("def #{collection.group} = groups[:#{collection.group}]", __FILE__, __LINE__) } # def channels = groups[:channels]

      # @param collection [Collection]
      # @return [Object, Hash] its item, or its items by key
      def group(collection) = groups.fetch(collection.group)

      # @param path [String]
      # @return [Object] the setting's JSON value
      # @raise [Invalid] if the show has no such setting
      def get(path) = fetch(path) { Path.parse(self, path).value }

      # @return [Object] the setting's value, or the block's result if the show has no such setting
      def fetch(path)
        collection, key, setting = Settings.find(path.to_s)
        return yield unless collection

        items = group(collection)
        return items.keys unless setting

        item = collection.one? ? items : items[key]
        item ? setting.plain(item) : yield
      end

      # @return [Boolean] whether the show has a setting at this path
      def setting?(path)
        fetch(path) { return false }
        true
      end

      # @return [Show] with one setting changed
      # @raise [Invalid] if the show has no such setting, or the value does not fit it
      def put(path, value)
        at = Path.parse(self, path)
        kept = at.keep(value)
        return Refit.to(self, kept) if path == "rig/desk"

        collection = at.collection
        return with_group(collection, collection.ordered(group(collection), kept, profile)) if at.order?

        item = at.item.with(at.setting.field => kept)
        with_group(collection, collection.one? ? item : group(collection).merge(at.key => item).freeze)
      end

      # @yieldparam path [String]   @yieldparam value [Object]   @yieldparam blank [Object] its initial value
      def each_setting
        Settings.collections.each do |collection|
          items = group(collection)
          yield collection.order, items.keys, [] if collection.list?
          collection.each_item(items) do |key, item|
            collection.settings.each_value { |setting| yield collection.path(key, setting.field), setting.plain(item), setting.blank_for(profile, key) }
          end
        end
      end

      # @return [Hash{String=>Object}] every setting by path, in order
      def settings = {}.tap { |all| each_setting { |path, value, _| all[path] = value } }

      # @return [Hash{String=>Object}] the initial value of every setting, by path
      def blank_settings = {}.tap { |all| each_setting { |path, _, blank| all[path] = blank } }

      # @return [Hash{String=>Object}] settings that differ from their initial value, by path; always includes "rig/desk"
      def set_settings = {}.tap { |all| each_setting { |path, value, blank| all[path] = value if path == "rig/desk" || value != blank } }

      # @return [Rig::Desk]
      def profile = layout.desk

      # @return [Integer] lanes the card carries each way in its present mode
      def card_lanes = profile.lanes_in(setup.card_mode)

      # @param point [Rig::Point, nil]
      # @return [Channel, nil] the channel that the point belongs to
      def channel_at(point) = point&.channel? ? channels[point.number] : nil

      # @return [Array<Integer>] card returns used as take or stage source of a channel; of a stereo channel, the left one
      def returns_heard = channels.values.flat_map { |channel| [channel.take, channel.stage] }.compact.select(&:card?).map(&:number)

      # @return [Integer] samples a second
      def rate = rig.rate

      # @param output [MixOutput, PersonalLane]
      # @return [Rig::Point, nil] what it carries, with its tap; post-fader if its own tap does not fit
      def point_of_output(output)
        source = output.source or return
        taps = profile.mixing.taps_of(source)
        return source if taps.empty?

        source.at(taps.include?(output.tap) ? output.tap : "post-fader")
      end

      # @param send [CardSend]
      # @return [String] tap of the send: its own, else the show's, else the first that a mix offers
      def tap_of(send)
        tap = send.tap || setup.default_tap
        taps = send.source ? profile.taps_of(send.source) : profile.taps
        return tap if taps.include?(tap)

        taps.include?("post-fader") ? "post-fader" : taps.first
      end

      # @return [Rig::Point, nil] what the send carries, with its tap
      def point_of(send) = send.source&.at(tap_of(send))

      # @param number [Integer] of an output of the desk
      # @return [Array<Rig::Point>] sockets at which it appears
      def sockets_of_output(number)
        outlets.values.select(&:first).flat_map do |outlet|
          point = profile.outlet_blocks.fetch(outlet.block)[number - outlet.first] if number >= outlet.first
          point ? layout.sockets_of_outlet(point) : []
        end
      end

      # @param output [Integer] of playback
      # @return [Rig::Point, nil] the socket it is cabled to, or the card return it uses
      def playback_goes_to(output)
        return playback_returns[output - 1] if playback.returns.any?

        rig.interface ? cables[output]&.to : nil
      end

      # @return [Array<Rig::Point>] sockets that the playback interface is cabled to
      def playback_sockets = rig.interface ? cables.values.filter_map(&:to) : []

      # @return [Array<Rig::Point>] card returns reserved for playback, in the order of its outputs
      def playback_returns
        streams = profile.return_points.each_slice(PlaybackKinds::STREAM).to_h { |points| [points.first.number, points] }
        streams.values_at(*playback.returns).flatten
      end

      # @param output [Integer] of playback
      # @return [Array<PlaybackRole>] roles assigned to that output
      def roles_on(output) = roles.values.select { |role| role.outputs.include?(output) }

      # @return [String] a track's own name, else its source's, else its number
      def title_of(track) = Inherited.title(self, track)

      # @return [String] a track's own dye, else its source's
      def dye_of(track) = Inherited.dye(self, track)

      # @return [String] a base point or socket in words, with the name given to it
      def label(point)
        name = point.mix? && point.kind == "bus" && !point.tap ? buses[point.number]&.name : channel_at(point)&.name
        [Rig::Label.for(point), name].compact.reject(&:empty?).join(" ")
      end

      # @param changes [Hash] fields, or items of a collection by its group
      def with(**changes)
        items, others = changes.partition { |field, _| groups.key?(field) }.map(&:to_h)
        self.class.new(**to_h, groups: groups.merge(items).freeze, **others)
      end

      # @return [Show] with the items of one collection replaced, and the rig's layout updated
      def with_group(collection, items)
        changed = with(collection.group => items)
        collection.rig? ? changed.with(layout: Rig::Layout.new(profile, changed.boxes, catalog, changed.rig.rate)) : changed
      end
    end
  end
end
