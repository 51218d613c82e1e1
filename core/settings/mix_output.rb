# frozen_string_literal: true

module Loomshuttle
  module Settings
    # One of the desk's outputs: the base point of the mix that feeds it, taken post-fader, and the socket where the engineer counts
    # on it ("box-b/out/7"); either may be nil.
    MixOutput = declare("output", :outputs, :desk, key: :number, keys: ->(desk) { 1..desk.mix_outputs }, words: ->(_, key) { "Output #{key}" }) do
      expected = ValueKind.new({ "type" => %w[string null] }, sort: :point) do |value, _|
        point = Rig::Point.read(value)
        fits = value.nil? || (point && (point.box? || point.device == "desk") && point.number && point == point.base && point.side.nil?)
        fits ? point : Kinds.refuse("an expected socket reads like box-b/out/7")
      end

      setting :source, Kinds.point { |at| at.show.profile.known(:mix_points) }.or_none, blank: nil, words: "carries", part: "outputs", desk: "output/%s/from"
      setting :expected, expected, blank: nil, words: "expected at", part: "outputs"
    end

    class MixOutput
      # @return [Rig::Point, nil]
      def point = source&.at("post-fader")
    end
  end
end
