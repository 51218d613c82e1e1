# frozen_string_literal: true

module Loomshuttle
  module Settings
    # One of the desk's outputs: the base point of what it carries (a mix, a channel, a card return past the mixer) or nil, the tap where that is
    # taken, its delay in samples, whether it is turned over, the socket where the engineer counts on it ("box-b/out/7") or nil, and the speaker that
    # it feeds, if any: "main", or "zone" for one that is delayed to the main ones, with where it stands (as Listener has it).
    MixOutput = declare("output", :outputs, :desk, key: :number, keys: ->(desk) { 1..desk.mix_outputs }, words: ->(_, key) { "Output #{key}" }) do
      expected = ValueKind.new({ "type" => %w[string null] }, sort: :point) do |value, _|
        point = Rig::Point.read(value)
        fits = value.nil? || (point && (point.box? || point.device == "desk") && point.number && point == point.base && point.side.nil?)
        fits ? point : Kinds.refuse("an expected socket reads like box-b/out/7")
      end

      setting :source, MixKinds.carried.or_none, blank: nil, words: "source", part: "outputs", desk: "output/%s/from"
      setting :tap, MixKinds.output_tap, blank: "post-fader", words: "tap", part: "outputs", desk: "output/%s/tap", on: MixKinds::TAPPED
      setting :delay, MixKinds.delay, blank: 0, unit: "samples", part: "outputs", desk: "output/%s/delay", on: MixKinds::DELAYED
      setting :polarity, MixKinds.turned, blank: false, words: "polarity inverted", part: "outputs", desk: "output/%s/polarity", on: MixKinds::TURNED
      setting :expected, expected, blank: nil, words: "expected socket", part: "outputs"
      setting :speaker, Kinds.one_of("main", "zone").or_none, blank: nil, words: "feeds a speaker", part: "outputs"
      setting :x, RoomKinds.metres, blank: nil, words: "speaker position right of centre", unit: "m", part: "outputs"
      setting :y, RoomKinds.metres, blank: nil, words: "speaker distance from stage", unit: "m", part: "outputs"
    end

    class MixOutput
      # @return [Rig::Point] where it leaves the mixer
      def point = Rig::Point.desk("output", number)
    end
  end
end
