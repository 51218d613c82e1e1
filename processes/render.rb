# frozen_string_literal: true

# Writes a song output by output: render.rb SONG-FOLDER OUT-FOLDER, with "roles", "tonight" and "pilot" as JSON on standard input (Player::Config).
require "json"
require_relative "../loader"
Loomshuttle.load_parts(:core, :runtime, :player)

song, out = ARGV
begin
  asked = JSON.parse($stdin.read)
  config = Loomshuttle::Player::Config.new(nil)
  config.change("roles" => asked.fetch("roles"), "pilot" => asked.fetch("pilot"))
  item = Loomshuttle::Player::Config::ITEM.check(asked.fetch("item"), "item")
  data = Loomshuttle::Songs::SongFile.song(Loomshuttle::Songs::SongFile.read(song))
  Loomshuttle::Player::Render.new(data, song, config.roles, tonight: Loomshuttle::Player::Order.tonight(item), pilot: config.pilot).run(out)
rescue Loomshuttle::Invalid, SystemCallError, KeyError => e
  abort(e.message)
end
