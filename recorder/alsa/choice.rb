# frozen_string_literal: true

require "json"

module Loomshuttle
  module Recorder
    module Alsa
      # The chosen sound card instead of the desk's card, kept in a file with the data that was read from it, so that the recorder starts even while
      # the card is unplugged.
      class Choice
        STREAM = 8
        # Rates that the trade works at, the usual ones first.
        RATES = [48_000, 44_100, 96_000, 88_200].freeze
        KEPT = Shape.record(Runtime::SoundDevices::FIELDS.merge("inputs" => Shape.whole(1..Runtime::SoundDevices::MOST_LANES)),
                            { "rate" => Shape.or_none(Shape.whole(Formats::TakeManifest::RATES)) })

        # @param home [String] folder of the file   @param aside [Runtime::Aside, nil] takes an unreadable file
        def initialize(home, aside = nil)
          @path = File.join(home, "sound-device.json")
          aside&.read(@path) { |data| data && parse(data) }
          @device, @wanted = read
        end

        # @return [Runtime::SoundDevices::Device, nil] nil for the desk's own card
        attr_reader :device

        # Chooses another sound card; the recorder restarts on it.
        # @param id [String, nil] from the list; nil for the desk's own card
        # @param rate [Integer, nil] of the show, samples per second
        # @raise [Invalid] if it is missing, busy, or supports none of our rates
        def choose(id, rate = nil)
          found = id && Runtime::SoundDevices.look(id)
          raise Invalid.new("#{found.words} runs at none of #{RATES.join(', ')} Hz.", where: "device") if found && rates(found, rate).empty?

          Runtime::Files.replace(@path, JSON.generate(found&.to_h&.merge(rate: rate)))
          { "device" => found&.name }
        end

        # @return [Boolean] whether the choice has changed since it was read
        def changed? = read != [@device, @wanted]

        # @return [Integer] samples per second: the show's rate if the device supports it
        def rate = rates(@device, @wanted).first

        # @return [Array<Formats::Sdp::Stream>] its lanes in streams of eight, like a desk's
        def sends = streams(@device.inputs)
        def returns = streams(@device.outputs)

        private

        def streams(lanes)
          (1..lanes).each_slice(STREAM).map do |slice|
            Formats::Sdp::Stream.new(host: "", port: 0, lanes: slice.size, first: slice.first, rate: rate, payload_type: Formats::Rtp::PAYLOAD_TYPE)
          end
        end

        def rates(device, wanted) = [wanted, *RATES].compact.select { |one| one.between?(*device.rates) }

        # @return [Array(Runtime::SoundDevices::Device, Integer)] both nil where none was chosen
        def read
          data = Runtime::Files.read_json(@path)
          data.nil? ? [nil, nil] : parse(data)
        rescue SystemCallError, Invalid
          [nil, nil]
        end

        def parse(data)
          kept = KEPT.check(data, "sound-device.json")
          device = Runtime::SoundDevices::Device.new(**kept.except("rate").transform_keys(&:to_sym))
          raise Invalid.new("sound-device.json has a device without a rate of ours.", where: "rates") if rates(device, kept["rate"]).empty?

          [device, kept["rate"]]
        end
      end
    end
  end
end
