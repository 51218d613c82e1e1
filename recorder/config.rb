# frozen_string_literal: true

require "json"

module Loomshuttle
  module Recorder
    # The recorder's configuration, kept in a file over a restart. An invalid file is moved aside, and the recorder starts without one.
    class Config
      DEFAULTS = { "tracks" => [], "buffer" => 1024, "own_mix" => [], "bits" => 24, "mirror" => nil, "project" => "", "trips" => {} }.freeze
      SHAPE = Shape.record({ "tracks" => Shape.list(Shape.record({}, others: true), most: Formats::TakeManifest::TRACKS) },
                           { **Requests::ALL["configure"].except(:tracks).transform_keys(&:to_s), "trips" => Shape.map(Shape.whole(0..1_000_000), most: 100) })

      # @param path [String] of the file   @param aside [Runtime::Aside, nil]
      def initialize(path, aside = nil)
        @path = path
        @data = DEFAULTS.merge(read(aside) || {})
      end

      # @return [Object] the value of a field
      def [](field) = @data[field]

      # @return [Array<Track>]
      def tracks = @data["tracks"].map { |data| Track.parse(data) }

      # @param tracks [Array<Hash>]   @param others [Hash{String=>Object}] other fields; absent ones stay
      # @raise [Invalid]
      def change(tracks, others)
        given = @data.merge(others)
        check(**given.transform_keys(&:to_sym).slice(:buffer, :own_mix, :bits, :mirror))
        keep(given.merge("tracks" => Track.parse_all(tracks).map { |track| track.to_h.transform_keys(&:to_s) }))
      end

      # @param frames [Integer] measured round trip with the present buffer
      def keep_trip(frames) = keep(@data.merge("trips" => @data["trips"].merge(@data["buffer"].to_s => frames)))

      # @return [Integer] round trip in samples: as measured with this buffer, else the buffer itself
      def trip = @data["trips"].fetch(@data["buffer"].to_s, @data["buffer"])

      private

      def read(aside)
        made = ->(data) { SHAPE.check(data, File.basename(@path)).tap { |kept| Track.parse_all(kept["tracks"]) } }
        return aside.read(@path, &made) if aside

        made.call(Runtime::Files.read_json(@path)) if File.exist?(@path)
      rescue Invalid, SystemCallError
        nil
      end

      # It is in force also where it could not be kept.
      def keep(data)
        @data = data
        Runtime::Files.replace(@path, JSON.generate(data))
      rescue SystemCallError => e
        Runtime::Health.trouble(e, "keeping #{@path}")
      end

      def check(buffer:, own_mix:, bits:, mirror:)
        raise Invalid.new("the buffer is a number of samples", where: "buffer") unless buffer.is_a?(Integer) && buffer.positive?
        raise Invalid.new("the own mix has two lanes or none", where: "own_mix") unless Track.lanes?(own_mix) && own_mix.size != 1
        raise Invalid.new("there are 24 or 32 bits", where: "bits") unless [24, 32].include?(bits)
        raise Invalid.new("the mirror is a folder", where: "mirror") unless mirror.nil? || mirror.is_a?(String)
      end
    end
  end
end
