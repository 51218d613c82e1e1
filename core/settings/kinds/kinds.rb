# frozen_string_literal: true

module Loomshuttle
  module Settings
    # The kinds of values that settings have. Where the valid values depend on the rig, a block gives them.
    module Kinds
      module_function

      # @param most [Integer] longest text, in characters
      def text(most)
        ValueKind.new({ "type" => "string" }) do |value, _|
          refuse("must be text") unless value.is_a?(String)
          refuse("has characters that cannot be shown") unless value.encoding == Encoding::UTF_8 && value.valid_encoding? && !value.match?(/[[:cntrl:]]/)
          clean = value.unicode_normalize(:nfc).strip
          refuse("has #{clean.length} characters; the limit is #{most}") if clean.length > most
          clean
        end
      end

      def boolean
        ValueKind.new({ "type" => "boolean" }, sort: :flag) { |value, _| [true, false].include?(value) ? value : refuse("must be true or false") }
      end

      # @param known [Array<String, Integer>] the allowed values
      def one_of(*known)
        type = known.first.is_a?(Integer) ? "integer" : "string"
        ValueKind.new({ "type" => type, "enum" => known }) { |value, _| member(value, known) }
      end

      # @param type ["string", "integer"]   @param sort [Symbol] of ValueKind   @param among [Array, nil] every value allowed on any rig, for the schema
      # @yieldparam at [Path]
      # @yieldreturn [Array] the values allowed there
      def one_known(type = "string", sort: :plain, among: nil)
        ValueKind.new({ "type" => type, "enum" => among }.compact, sort: sort) { |value, at| member(value, yield(at)) }
      end

      # A base point or source of the rig, given by name.
      # @yieldparam at [Path]
      # @yieldreturn [Set<Rig::Point>]
      def point
        ValueKind.new({ "type" => "string" }, sort: :point) { |value, at| known_point(value, yield(at)) }
      end

      # @param range [Range]
      def whole(range)
        ValueKind.new({ "type" => "integer", "minimum" => range.min, "maximum" => range.max }, sort: :count) do |value, _|
          next value if value.is_a?(Integer) && range.cover?(value)

          refuse("a whole number from #{range.min} to #{range.max} is needed, not #{value.inspect[0, 60]}")
        end
      end

      # The lanes of a mono or stereo track, or an empty list.
      # @yieldparam at [Path]
      # @yieldreturn [Array(Integer, Integer)] how many lanes the track needs, and how many the card has
      def lanes
        ValueKind.new({ "type" => "array", "maxItems" => 2, "items" => { "type" => "integer", "minimum" => 1 } }) do |value, at|
          width, count = yield(at)
          fits = value.is_a?(Array) && [0, width].include?(value.size) && value.uniq.size == value.size
          refuse("needs #{width == 1 ? 'one lane' : 'two different lanes'}, or none") unless fits
          unknown = value.reject { |lane| lane.is_a?(Integer) && lane.between?(1, count) }
          refuse("the card has lanes 1 to #{count}, not #{unknown.join(', ')[0, 60]}") unless unknown.empty?
          value
        end
      end

      # The tap at which a signal is taken from a channel or a mix.
      # @yieldparam at [Path]
      # @yieldreturn [Array<String>]
      def tap_of(&) = one_known(sort: :tap, &)

      # Something that not every desk can do; on other desks only the usual value is allowed.
      # @param usual [Object] the value allowed everywhere   @param what [String] what the desk lacks, for people
      # @yieldparam mixing [Rig::Mixing]
      # @yieldreturn [Boolean] whether this desk supports it
      def where_able(kind, usual, what)
        kind.also do |value, at|
          value == usual || yield(at.show.profile.mixing) ? value : refuse("the #{at.show.profile.name} has no #{what}")
        end
      end

      # A device from the catalog.
      # @param kind ["desk", "box", "interface"]
      def device(kind) = ValueKind.new({ "type" => "string" }, sort: :device) { |value, at| at.show.catalog.fetch(kind, value, where: at.name).id }

      # Accepted findings: id of the finding => reason.
      # @param most [Integer] number of findings
      def reasons(most)
        words = text(200)
        ValueKind.new({ "type" => "object", "additionalProperties" => { "type" => "string" } }) do |value, at|
          fits = value.is_a?(Hash) && value.size <= most && value.all? { |id, reason| id.is_a?(String) && id.length <= 200 && reason.is_a?(String) && !reason.strip.empty? }
          refuse("each accepted finding needs a reason in words") unless fits
          value.transform_values { |reason| words.keep(reason, at) }
        end
      end

      # @raise [Refusal]
      def refuse(why) = raise(Refusal, why)

      def known_point(value, known)
        point = Rig::Point.read(value)
        known.include?(point) ? point : member(value, known.map(&:name))
      end

      def member(value, known)
        return value if known.include?(value)

        refuse("this desk has none") if known.empty?
        shown = known.size > 8 ? "#{known.first} to #{known.last}" : known.join(", ")
        refuse("#{value.inspect[0, 60]} is not one of #{shown}")
      end
    end
  end
end
