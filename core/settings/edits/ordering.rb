# frozen_string_literal: true

module Loomshuttle
  module Settings
    # Settings in one edit depend on each other: a send's tap must suit its source, a track's lanes its width. This sorts them so that each step is
    # valid, in an edit and in its inverse.
    module Ordering
      # @param settings [Hash{String=>Object}]
      # @return [Array<Array(String, Object)>] path and value, step by step; a setting may appear twice, emptied first
      def self.sort(settings)
        emptied = settings.keys.flat_map { |path| emptying(path, settings) }
        widths, rest = settings.partition { |path, _| path.end_with?("/stereo") }
        taps, others = rest.partition { |path, _| path.match?(%r{\Asend/\d+/tap\z}) }
        lists = Settings.collections.select(&:list?).map(&:order)
        orders, others = others.partition { |path, _| lists.include?(path) }
        orders + emptied + widths + taps + others
      end

      # Settings to empty before another can change: the lanes of a track whose width changes, the source of a
      # send whose tap changes. They are restored unless the edit sets them.
      def self.emptying(path, settings)
        case path
        when %r{\Atrack/\d+/stereo\z}
          base = path.delete_suffix("stereo")
          %w[inputs outputs].filter_map { |field| ["#{base}#{field}", []] if settings.key?("#{base}#{field}") }
        when %r{\Asend/\d+/tap\z}
          source = path.sub("tap", "source")
          settings.key?(source) ? [[source, nil]] : []
        else []
        end
      end
      private_class_method :emptying
    end
  end
end
