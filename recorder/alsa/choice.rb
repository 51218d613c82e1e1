# frozen_string_literal: true

require "json"

module Loomshuttle
  module Recorder
    module Alsa
      # Which sound card the recorder listens to instead of the desk's own, kept in a file: what was read of it when it was chosen, so
      # that the recorder starts even while it is not plugged.
      class Choice
        STREAM = 8

        # @param home [String] folder of the file
        def initialize(home)
          @path = File.join(home, "sound-device.json")
          @device = read
        end

        # @return [Devices::Device, nil] nil for the desk's own card
        attr_reader :device

        # Chooses another one; the recorder starts anew on it.
        # @param name [String, nil]
        # @raise [Invalid] when it is not there, or busy
        def choose(name)
          found = name && Devices.look(name).to_h
          File.write("#{@path}.new", JSON.generate(found))
          File.rename("#{@path}.new", @path)
          { "device" => name }
        end

        # @return [Boolean] whether another one was chosen since this one was read
        def changed? = read != @device

        # @return [Integer] samples a second: what the show's world runs at, where the device can
        def rate = 48_000.clamp(*@device.rates)

        # @return [Array<Formats::Sdp::Stream>] its lanes in eights, as a desk would send them
        def sends = streams(@device.inputs)
        def returns = streams(@device.outputs)

        private

        def streams(lanes)
          (1..lanes).each_slice(STREAM).map do |slice|
            Formats::Sdp::Stream.new(host: "", port: 0, lanes: slice.size, first: slice.first, rate: rate, payload_type: Formats::Rtp::PAYLOAD_TYPE)
          end
        end

        def read
          data = JSON.parse(File.read(@path))
          data && Devices::Device.new(**data.transform_keys(&:to_sym))
        rescue SystemCallError, JSON::ParserError, ArgumentError
          nil
        end
      end
    end
  end
end
