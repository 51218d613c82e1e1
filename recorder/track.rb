# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # A track as the recorder needs it: lanes are 1-based, inputs from the card's sends, outputs to its returns.
    Track = Value.define(:number, :name, :inputs, :outputs, :armed) do
      # @param data [Hash] from JSON-RPC
      # @raise [Invalid] says what does not fit
      def self.parse(data)
        number, name, inputs, outputs = data.values_at("number", "name", "inputs", "outputs")
        fits = number.is_a?(Integer) && number.between?(1, 99_999) && name.is_a?(String) && lanes?(inputs) && lanes?(outputs)
        raise Invalid.new("a track needs number, name, and inputs and outputs as lists of lanes", where: "tracks") unless fits

        new(number: number, name: Text.keep(name, "a track's name", lines: false), inputs: inputs, outputs: outputs, armed: data["armed"] == true)
      end

      # @return [Boolean] whether it is a list of at most two lanes
      def self.lanes?(list) = list.is_a?(Array) && list.size <= 2 && list.all? { |lane| lane.is_a?(Integer) && Formats::TakeManifest::LANE.cover?(lane) }

      # All tracks of a recorder.
      # @param list [Object] from JSON-RPC
      # @return [Array<Track>]
      # @raise [Invalid]
      def self.parse_all(list)
        fits = list.is_a?(Array) && list.size <= Formats::TakeManifest::TRACKS && list.all?(Hash)
        raise Invalid.new("tracks must be a list of at most #{Formats::TakeManifest::TRACKS} tracks", where: "tracks") unless fits

        tracks = list.map { |one| parse(one) }
        twice = tracks.map(&:number).tally.select { |_, count| count > 1 }.keys
        raise Invalid.new("track #{twice.first} is there twice", where: "tracks") if twice.any?

        tracks
      end

      # @param count [Integer] lanes of the card
      # @return [Boolean] whether the track has inputs that all exist on the card
      def within?(count) = !inputs.empty? && inputs.all? { |lane| lane <= count }

      # @return [Boolean] whether captures write this track
      def captured? = armed && !inputs.empty?
    end
  end
end
