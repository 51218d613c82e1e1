# frozen_string_literal: true

require_relative "boot"
# File names are UTF-8, whatever the terminal of the one who started it says.
Encoding.default_external = Encoding::UTF_8
require "zeitwerk"

# One product in parts that must not grow together. Each process loads only the parts it may know; naming any other
# part is then a NameError at once.
module Loomshuttle
  ROOT = __dir__
  # The same as a pattern, as Zeitwerk takes what it ignores or collapses: the folder's name may hold what patterns are made of.
  HERE = ROOT.gsub(/[\[\]{}*?\\]/) { |letter| "\\#{letter}" }
  private_constant :HERE

  # part => namespace it fills (the core fills Loomshuttle itself)
  PARTS = { core: nil, runtime: :Runtime, recorder: :Recorder, player: :Player, stand_ins: :StandIns, porter: :Porter, store: :Store, web: :Web,
            command_line: :CommandLine, supervisor: :Supervisor }.freeze

  # Which other parts each part may name. docs/architecture.md shows this table and the next; a spec keeps all three equal.
  MAY_USE = { core: [], runtime: %i[core], recorder: %i[core runtime], player: %i[core runtime], porter: %i[core runtime], stand_ins: %i[core runtime],
              store: %i[core runtime], web: %i[core runtime store], command_line: %i[runtime], supervisor: %i[core runtime store] }.freeze

  # Which other rooms each room of the core may name. Never both ways.
  CORE_MAY_USE = { audio: [], rig: [], timing: [], settings: %i[rig], formats: %i[audio rig settings], songs: %i[audio formats timing], line_check: %i[audio rig settings],
                   delivery: %i[formats], signal: %i[rig settings], hearing: %i[rig settings signal timing], views: %i[rig settings timing],
                   steps: %i[formats hearing rig settings signal songs timing],
                   checks: %i[hearing rig settings signal songs steps timing views] }.freeze

  # Rooms of the core that a part may load, where that is not the whole of it: a stand-in shares no routing with the application.
  ROOMS = { stand_ins: %w[audio formats], recorder: %w[audio formats line_check], player: %w[audio formats timing songs],
            porter: %w[audio formats timing songs] }.freeze

  # Folders that only sort files: what is in them belongs to the namespace of the folder around them.
  SHELVES = {
    "core/checks" => %w[rig capture soundcheck outputs playback heard], "core/formats" => %w[lists], "core/settings" => %w[collections kinds edits],
    "core/signal" => %w[graph levels strands], "core/steps" => %w[inputs outputs playback tracks],
    "player" => %w[deck foot outputs twin], "recorder" => %w[capture card take_playback takes],
    "runtime" => %w[calls files network threads], "stand_ins/desk" => %w[mixing settings],
    "web" => %w[deliveries doors hearing present recorder show songs]
  }.freeze

  # Makes the constants of some parts loadable on first use.
  # @param parts [Array<Symbol>] keys of PARTS
  # @return [void]
  def self.load_parts(*parts)
    loader = Zeitwerk::Loader.new
    closed_rooms(parts).each { |room| loader.ignore(File.join(HERE, "core", room), File.join(HERE, "core", "#{room}.rb")) }
    parts.each do |part|
      name = PARTS.fetch(part)
      namespace = name ? const_set(name, Module.new) : self
      loader.push_dir(File.join(ROOT, part.to_s), namespace: namespace)
    end
    SHELVES.each { |folder, shelves| loader.collapse(shelves.map { |shelf| File.join(HERE, folder, shelf) }) }
    loader.ignore(File.join(HERE, "store", "migrations"))
    loader.setup
  end

  # @return [Array<String>] rooms of the core that none of these parts may know; none are closed to a process that may know all
  def self.closed_rooms(parts)
    bound = parts - %i[core runtime]
    return [] if bound.empty? || (bound - ROOMS.keys).any?

    Dir.children(File.join(ROOT, "core")).reject { |entry| entry.end_with?(".rb") } - ROOMS.values_at(*bound).flatten
  end
  private_class_method :closed_rooms
end
