# frozen_string_literal: true

module Loomshuttle
  module Settings
    # Parts of a patch that can be saved and recalled by themselves.
    module PresetParts
      ALL = {
        "rig" => %r{\A(rig|box)/},
        "inputs" => %r{\Achannel/\d+/(stage|gain|phantom|mic|stand|spot|paired|fixed)\z},
        "sends" => %r{\A(send/|track/\d+/(stereo|inputs|armed)\z)},
        "returns" => %r{\A(channel/\d+/(take|position)|track/\d+/(outputs|shares))\z},
        "outputs" => %r{\A(output|outlet)/},
        "names" => %r{\A(channel/\d+/(name|short|colour)|track/\d+/(name|colour)|bus/\d+/name)\z}
      }.freeze

      # @param show [Show]
      # @param parts [Array<String>] keys of ALL
      # @return [Hash{String=>Object}] every setting of those parts, set or not
      # @raise [Invalid] for another part
      def self.of(show, parts) = only(show.settings, parts)

      # @param settings [Hash{String=>Object}]
      # @return [Hash{String=>Object}] those that belong to some parts
      # @raise [Invalid] for an unknown part
      def self.only(settings, parts)
        unknown = parts - ALL.keys
        raise Invalid.new("There are no #{unknown.join(', ')} to save; known are #{ALL.keys.join(', ')}.", where: "parts") if unknown.any? || parts.empty?

        settings.select { |path, _| parts.any? { |part| ALL.fetch(part).match?(path) } }
      end

      # Settings that were saved, as they can be set in a show: on another desk with all that must give way to it, on the
      # same one with what moves along.
      # @param settings [Hash{String=>Object}]
      # @return [Array(Hash, Array<String>)] what can be set, and the paths that the rig lacks
      # @raise [Invalid] when the saved desk is not known here
      def self.recall(show, settings)
        desk = settings["rig/desk"]
        refit = desk && desk != show.rig.desk ? Refit.settings(show, desk) : {}
        after = refit.empty? ? show : Edit.set("", refit).apply(show).first
        known = after.settings
        fits, lacks = settings.partition { |path, _| known.key?(path) }
        fits = emptied(after, fits.to_h)
        [refit.empty? ? Steps::Completed.settings(show, fits) : refit.merge(fits), lacks.map(&:first)]
      end

      # A track whose width changes gives up the lanes that do not come with it.
      def self.emptied(show, settings)
        lanes = settings.keys.grep(%r{/stereo\z}).flat_map do |path|
          base = path.delete_suffix("stereo")
          %w[inputs outputs].map { |field| "#{base}#{field}" } unless show.get(path) == settings[path]
        end
        lanes.compact.reject { |path| settings.key?(path) }.to_h { |path| [path, []] }.merge(settings)
      end
      private_class_method :emptied
    end
  end
end
