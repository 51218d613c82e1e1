# frozen_string_literal: true

module Loomshuttle
  module Settings
    # Kinds of values of playback.
    module PlaybackKinds
      # Outputs of a playback interface, at most.
      OUTPUTS = 16
      # Lanes of a stream of the card.
      STREAM = 8
      # A socket of a box, whether one stands there now or not, or of the desk.
      SOCKET = %r{\A(?:box-[a-h]/in/[1-9]\d?|desk/[a-z]+/[1-9]\d?)\z}
      SONG = /\A\h{8}(?:-\h{4}){3}-\h{12}\z/

      class << self
        # The input socket that an output is cabled to.
        def socket
          ValueKind.new({ "type" => "string" }, sort: :point) do |value, at|
            point = Rig::Point.read(value)
            fits = point && SOCKET.match?(value) && (point.box? || at.show.profile.input_sockets.include?(point))
            fits ? point : Kinds.refuse("#{Text.readable(value, most: 60)} is not an input socket of this rig")
          end
        end

        # Streams of the card, given by their first lanes. A stream has one sender (RFC 3550, 8), so playback gets whole streams.
        def returns
          schema = { "type" => "array", "maxItems" => 2, "uniqueItems" => true, "items" => { "type" => "integer", "minimum" => 1 } }
          ValueKind.new(schema) do |value, at|
            first = (1..at.show.profile.returns).step(STREAM).to_a
            fits = value.is_a?(Array) && value.size <= 2 && value.uniq.size == value.size && (value - first).empty?
            fits ? value : Kinds.refuse("card returns go to playback by whole streams, from lane #{first.join(', ')}, two at most")
          end
        end

        # No output, one, or left and right.
        def outputs
          ValueKind.new({ "type" => "array", "maxItems" => 2, "uniqueItems" => true, "items" => { "type" => "integer", "minimum" => 1, "maximum" => OUTPUTS } }) do |value, _|
            fits = value.is_a?(Array) && value.size <= 2 && value.uniq.size == value.size && value.all? { |one| one.is_a?(Integer) && one.between?(1, OUTPUTS) }
            fits ? value : Kinds.refuse("outputs are none, one, or two different ones from 1 to #{OUTPUTS}")
          end
        end

        # A song of the computer's library, by its id; loading it shows whether it still exists.
        def song
          ValueKind.new({ "type" => "string", "pattern" => SONG.source.gsub('\A', "^").gsub('\z', "$").gsub('\h', "[0-9a-f]") }, sort: :song) do |value, _|
            value.is_a?(String) && SONG.match?(value) ? value : Kinds.refuse("a song is named by its id")
          end
        end

        # A list of section keys.
        def sections
          ValueKind.new({ "type" => "array", "maxItems" => 500, "uniqueItems" => true, "items" => { "type" => "integer", "minimum" => 1 } }) do |value, _|
            fits = value.is_a?(Array) && value.size <= 500 && value.uniq.size == value.size && value.all? { |key| key.is_a?(Integer) && key.between?(1, 99_999) }
            fits ? value : Kinds.refuse("sections are a list of their numbers")
          end
        end

        # Key of a section, as text => how many times it is played.
        def repeats
          schema = { "type" => "object", "maxProperties" => 500, "additionalProperties" => { "type" => "integer", "minimum" => 1, "maximum" => 99 } }
          ValueKind.new(schema) do |value, _|
            fits = value.is_a?(Hash) && value.size <= 500 && value.all? { |key, times| key.to_s.match?(/\A[1-9]\d{0,4}\z/) && times.is_a?(Integer) && times.between?(1, 99) }
            fits ? value : Kinds.refuse("repeats are numbers of sections with how often each is played, 1 to 99 times")
          end
        end
      end
    end
  end
end
