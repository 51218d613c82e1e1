# frozen_string_literal: true

# Writes a song output by output: render.rb SONG-FOLDER OUT-FOLDER, with "roles", "item", "pilot", "fps" and "hour" (of its timecode) as JSON on standard input (Player::Config).
require "json"
require_relative "../loader"
Loomshuttle.load_parts(:core, :runtime, :player)

song, out = ARGV
begin
  asked = JSON.parse($stdin.read)
  config = Loomshuttle::Player::Config.new(nil)
  config.change("roles" => asked.fetch("roles"), "pilot" => asked.fetch("pilot"), "fps" => asked.fetch("fps"))
  item = Loomshuttle::Player::Config::ITEM.check(asked.fetch("item"), "item")
  tonight = Loomshuttle::Player::OrderItems.tonight(item)
  data = Loomshuttle::Songs::SongFile.song(Loomshuttle::Songs::Varied.data(Loomshuttle::Songs::SongFile.read(song), tonight.tempo, tonight.key))
  timecode = Loomshuttle::Player::Timecode.new(data.rate, config["fps"], Loomshuttle::Shape.whole(1..1000).check(asked.fetch("hour"), "hour"))
  render = Loomshuttle::Player::Render.new(data, song, config.roles, tonight: tonight, pilot: config.pilot, timecode: timecode)
  render.run(out)
  puts JSON.generate("limited" => render.limited)
rescue Loomshuttle::Invalid, SystemCallError, KeyError => e
  abort(e.message)
end
