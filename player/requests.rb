# frozen_string_literal: true

module Loomshuttle
  module Player
    # The type of each request parameter, checked at the door.
    module Requests
      AT = Shape.or_none(Shape.whole(0..Shape::LARGEST))
      # 0: all of a song that has no sections.
      SECTION = Shape.whole(0..99_999)
      AT_NEXT = Shape.one_of(*Songs::Walk::AT_NEXT)

      ALL = {
        "status" => {}, "health" => {}, "stop" => { at: AT }, "panic" => {}, "take.back" => {}, "renew" => {}, "follow" => { to: Shape.or_none(Config::FOLLOW) },
        "foot" => { foot: Config::FOOT }, "go" => {}, "sound.devices" => {}, "sound" => { id: Shape.or_none(Shape.text(most: 12, pattern: /\A\h{12}\z/)) },
        "meters" => { subscribe: Shape.boolean }, "configure" => Config::FIELDS.transform_keys(&:to_sym),
        "load" => { item: Config::KEY }, "play" => { section: Shape.or_none(SECTION), sample: Shape.or_none(Songs::SongFile::FRAMES), at: AT },
        "fade" => { seconds: Shape.number(0.01..60), at: AT }, "jump" => { section: SECTION, at_next: AT_NEXT, at: AT },
        "around" => { on: Shape.boolean, at: AT }, "stop.at" => { at_next: AT_NEXT, at: AT }
      }.freeze
    end
  end
end
