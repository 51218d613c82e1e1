# frozen_string_literal: true

require "json"

module Loomshuttle
  module Web
    # Reads the format of a sound file with ffprobe, which is told to treat it as sound only, never as a playlist that names other files.
    module Probe
      # It has so long for one file (seconds).
      SECONDS = 10
      COMMAND = ["ffprobe", "-v", "error", *Formats::SoundKinds::OPTIONS, "-of", "json", "-select_streams", "a:0", "-show_streams", "-show_format"].freeze
      LANES = (1..256)

      # @param path [String]
      # @return [Delivery::Sound, nil] nil if the file is unreadable or its figures are impossible
      def self.sound(path)
        text, well = Runtime::Programs.run(*COMMAND, path, seconds: SECONDS)
        told = well && JSON.parse(text)
        stream = told && told["streams"]&.first or return
        rate, lanes, frames = figures(stream, told)
        return unless Delivery::Plan::RATES.cover?(rate) && LANES.cover?(lanes) && frames.between?(1, Formats::TakeManifest::FRAMES.max)

        Delivery::Sound.new(path: path, name: Delivery::Name.parse(path), rate: rate, lanes: lanes, codec: Text.readable(stream["codec_name"], most: 40),
                            frames: frames, time_reference: time(told), called: called(path))
      rescue JSON::ParserError, RangeError
        nil
      end

      class << self
        private

        # Which ffprobe does not tell.
        def called(path)
          names = []
          File.open(path, "rb") do |file|
            Formats::Wav.each_chunk(file, whole: true) { |id, size, at| names = Formats::IXml.names(file.pread(size.clamp(1, Formats::IXml::LONGEST), at)) if id == "iXML" }
          end
          names
        rescue SystemCallError, EOFError
          []
        end

        def figures(stream, told)
          rate = stream["sample_rate"].to_i
          [rate, stream["channels"].to_i, ((stream["duration"] || told.dig("format", "duration")).to_f * rate).round]
        end

        # Samples since midnight, where they can be true.
        def time(told)
          samples = told.dig("format", "tags", "time_reference")&.to_i
          samples if samples&.between?(0, Shape::LARGEST)
        end
      end
    end
  end
end
