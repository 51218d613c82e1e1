# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # The type of each request parameter, checked at the door, so that nothing behind it has to.
    module Requests
      TAKE = Shape.any_of(Shape.whole(0..9_999_999), Shape.text(most: 64))
      NAME = Shape.text(most: 80)
      FRAME = Shape.whole(Formats::TakeManifest::FRAMES)
      NUMBERS = Shape.list(Shape.whole(1..99_999), most: Formats::TakeManifest::TRACKS)
      LANE = Shape.whole(Formats::TakeManifest::LANE)
      # What is inside these is checked where it is made into values: Track, TakeMarkers.
      TRACKS = Shape.list(Shape::Kind.new(->(value, _) { value }), most: Formats::TakeManifest::TRACKS)
      MARKERS = Shape.list(Shape::Kind.new(->(value, _) { value }), most: Formats::TakeManifest::MARKERS)

      NAMES = Shape.list(Shape.record({ "number" => Shape.whole(0..99_999), "name" => NAME }), most: Formats::TakeManifest::TRACKS)

      ALL = {
        "status" => {}, "stop" => {}, "capture.stop" => {}, "bin" => {}, "bin.empty" => {}, "devices" => {}, "health" => {},
        "play" => { take: TAKE, from: FRAME, to: Shape.or_none(FRAME), loop: Shape.boolean, by_name: Shape.boolean },
        "meters" => { subscribe: Shape.boolean },
        "configure" => { tracks: TRACKS, buffer: Shape.whole(16..65_536), own_mix: Shape.list(LANE, most: 2), bits: Shape.one_of(24, 32),
                         mirror: Shape.or_none(Shape.text(most: 1024, pattern: %r{\A/})), project: Shape.text(most: 200) },
        "arm" => { armed: Shape.boolean, tracks: Shape.or_none(NUMBERS) },
        "capture.start" => { name: NAME, frames: Shape.or_none(FRAME), back: Shape.number(0..LookBack::SECONDS) },
        "capture.over" => { take: TAKE, tracks: NUMBERS, name: NAME, from: FRAME },
        "trip.measure" => { output: LANE, input: LANE },
        "ears.mix" => { ways: Shape.list(EarMix::WAY, most: EarMix::WAYS), from: Shape.or_none(FRAME) },
        "capture.rest" => { tracks: NUMBERS, resting: Shape.boolean },
        "capture.mark" => { name: Shape.or_none(NAME), kind: Shape.one_of("point", "begin", "end") },
        "take.change" => { take: TAKE, name: NAME, notes: Shape.text(most: 2000, lines: true), colour: Shape.text(most: 16), markers: MARKERS, tracks: NAMES },
        "take.adopt" => { folder: Shape.text(most: 4096, pattern: %r{\A/}) },
        "take.discard" => { take: TAKE },
        "bin.restore" => { number: Shape.whole(0..9_999_999) },
        "device.choose" => { id: Shape.or_none(Shape.text(most: 64)), rate: Shape.or_none(Shape.whole(Formats::TakeManifest::RATES)) }
      }.freeze
    end
  end
end
