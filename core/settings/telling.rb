# frozen_string_literal: true

module Loomshuttle
  module Settings
    # Settings and their values in words, for previews, comparisons and the journal.
    module Telling
      FIELDS = {
        "channel/stage" => "hears on stage", "channel/take" => "hears on take", "channel/position" => "is on", "channel/gain" => "preamp gain",
        "channel/colour" => "dye", "channel/short" => "short name", "channel/phantom" => "48 V", "channel/mic" => "microphone",
        "channel/spot" => "stands", "channel/paired" => "paired with the next", "channel/fixed" => "fixed", "send/source" => "carries",
        "send/tap" => "taken at", "track/inputs" => "captures card sends", "track/outputs" => "plays to card returns", "track/stereo" => "stereo",
        "track/colour" => "dye", "track/shares" => "shares a return as", "output/source" => "carries", "output/expected" => "expected at",
        "outlet/first" => "starts with output", "box/profile" => "kind", "box/port" => "on port", "box/place" => "place in the chain",
        "box/input_offset" => "input offset", "box/output_offset" => "output offset", "box/spot" => "stands", "rig/desk" => "desk", "rig/rate" => "rate",
        "rig/desk_clock" => "the desk's clock", "rig/recorder_clock" => "the recorder's clock", "rig/interface" => "playback interface",
        "setup/card_mode" => "card mode", "setup/buffer" => "recorder buffer", "setup/bits" => "bits a sample", "setup/default_tap" => "default tap",
        "setup/length_minutes" => "length of the show", "setup/own_mix" => "the recorder's own mix leaves on card returns",
        "setup/mirror" => "second copy of takes in", "setup/desk_follows" => "the desk follows edits", "setup/alignment" => "alignment level",
        "setup/monitoring" => "the stage hears itself through", "setup/accepted" => "accepted findings"
      }.freeze
      UNITS = { "channel/gain" => "dB", "rig/rate" => "Hz", "setup/buffer" => "samples", "setup/alignment" => "dBFS", "setup/length_minutes" => "minutes" }.freeze

      # One change for a person: what (the item and its name), field, and both values in words.
      Told = Value.define(:path, :what, :field, :from, :to)

      # @param show [Show] after or before the change; names are its
      # @return [Told]
      def self.change(show, path, from, to)
        kind, key, field = split(path)
        Told.new(path: path, what: what(show, kind, key), field: field_words(kind, field),
                 from: value(show, kind, field, from), to: value(show, kind, field, to))
      end

      # @param show [Show]
      # @return [String] a setting in words, such as "Channel 4 Fiddle, preamp gain"
      def self.setting(show, path)
        kind, key, field = split(path)
        "#{what(show, kind, key)}, #{field_words(kind, field)}"
      end

      # @param settings [Hash{String=>Object}] of an edit that nobody has named
      # @return [String] what it is about
      # @raise [Invalid] when the show has no such setting
      def self.label(show, settings)
        first, *more = settings.keys
        return "Nothing" unless first

        Path.parse(show, first)

        more.empty? ? setting(show, first) : "#{setting(show, first)} and #{more.size} more"
      end

      # @return [String] a change in one line
      def self.line(told) = "#{told.what}: #{told.field} #{told.from} → #{told.to}"

      class << self
        private

        def field_words(kind, field) = FIELDS.fetch("#{kind}/#{field}") { field.to_s.tr("_", " ") }

        def split(path)
          kind, key, field = path.split("/", 3)
          field ? [kind, key, field] : [kind, nil, key]
        end

        def what(show, kind, key)
          case kind
          when "channel" then named("Channel #{key}", show.channels[key.to_i]&.name)
          when "track" then named("Track #{key}", show.tracks[key.to_i]&.then { |track| show.title_of(track) unless show.title_of(track) == "Track #{key}" })
          when "send" then "Card send #{key}"
          when "outlet" then "Outlets #{key.tr('-', ' block ')}"
          when "box" then "Box #{key.upcase}"
          when "rig" then "Rig"
          when "setup" then "Show"
          else "#{kind.capitalize} #{key}"
          end
        end

        def named(words, name) = [words, name].reject { |one| one.to_s.empty? }.join(" ")

        def value(show, kind, field, value)
          case value
          when nil, "", [] then kind == "send" && field == "tap" ? "as the show" : "none"
          when true then "yes"
          when false then "no"
          when Array then value.join(" and ")
          when Hash then value.empty? ? "none" : value.keys.join(", ")
          when Numeric then [value.to_s.sub("-", "−"), UNITS["#{kind}/#{field}"]].compact.join(" ")
          else text(show, field, value)
          end
        end

        DEVICES = %w[profile desk interface].freeze
        private_constant :DEVICES

        def text(show, field, value)
          return Rig::Label::TAPS.fetch(value, value) if field.end_with?("tap")
          return show.catalog.all.find { |profile| profile.id == value }&.name || value if DEVICES.include?(field)
          return value unless value.match?(%r{\A(desk|card|link|box-[a-h])/})

          show.layout.words(value)
        end
      end
    end
  end
end
