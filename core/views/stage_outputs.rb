# frozen_string_literal: true

module Loomshuttle
  module Views
    # The output sockets in use, by where they are: on each stage box, and on the desk.
    module StageOutputs
      # point: the socket; output: its number; carries: in words; plugs: titles of the listeners who hear it
      Plug = Value.define(:point, :output, :carries, :plugs)
      # letter: of the box, nil of the desk; title, note: in words
      Place = Value.define(:letter, :title, :note, :sockets)

      class << self
        # @param show [Settings::Show]
        # @return [Array<Place>] boxes in the order of their chains, then the desk; only those with an output in use
        def of(show)
          found = show.outputs.values.select(&:source).flat_map { |output| sockets(show, output) }.group_by { |socket| socket.point.letter }
          places = show.layout.hung.map { |hung| Place.new(letter: hung.letter, title: hung.title, note: hung.box.name, sockets: found.fetch(hung.letter, [])) }
          places << Place.new(letter: nil, title: "At the desk", note: show.profile.name, sockets: found.fetch(nil, []))
          places.reject { |place| place.sockets.empty? }.map { |place| place.with(sockets: place.sockets.sort_by { |one| [one.point.kind, one.point.number] }) }
        end

        private

        def sockets(show, output)
          plugs = show.listeners.values.select { |one| one.outlets.include?(output.point.name) }.map(&:title)
          show.sockets_of_output(output.number).map { |point| Plug.new(point: point, output: output.number, carries: show.label(output.source), plugs: plugs) }
        end
      end
    end
  end
end
