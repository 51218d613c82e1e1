# frozen_string_literal: true

module Loomshuttle
  module Hearing
    # Every source of a show: the stage sources of channels (a socket counts once for all its channels; a card return with all its paths), and card
    # returns in use without a channel.
    module Sources
      # A click, spoken cues, a steady tone: what an audience should never hear. By what plays there, or by its name (common practice, no published source).
      CUES = { "click" => /\b(?:click|metronome|count)\b/i, "guide" => /\b(?:guide|cues?)\b/i, "pilot" => /\bpilot\b/i }.freeze

      # source: Source; number: of the channel, nil of a card return; width: lanes that it has; title, dye: for people; cue: a key of CUES, or nil
      Named = Value.define(:source, :number, :width, :title, :dye, :cue) do
        def id = source.id
      end

      class << self
        # @param show [Settings::Show]   @param graph [Signal::Graph]
        # @return [Array<Named>] channels in order, then returns
        def of(show, graph)
          heard = {}
          played = RoleWays.entering(graph, show.roles.values.reject { |role| role.kind == "parts" })
          channels = show.channels.values.select(&:used?).filter_map { |channel| of_channel(show, graph, channel, heard) }
          all = channels + returns(show).reject { |lane| heard[Rig::Point.card_return(lane)] }.map { |lane| of_return(show, graph, lane) }
          played.empty? ? all : all.map { |one| cued(one, played) }
        end

        private

        # What plays there says more than any name.
        def cued(named, played)
          kind = named.source.entries.flat_map { |entry| played.fetch(entry.point.base, []) }.map(&:kind).find { |one| CUES.key?(one) }
          kind ? named.with(cue: kind) : named
        end

        # Of channels that hear the same, the first one speaks for all.
        def of_channel(show, graph, channel, heard)
          from = channel.hears
          return if from && heard[from]

          points = show.profile.channel_points(channel.number)
          starts = from ? points.each_index.map { |side| show.layout.socket_of(from.beside(side)) } : points.map { |base| base.at("channel-in") }
          starts.each { |start| heard[start] = true }
          named("channel/#{channel.number}", entries(graph, starts), channel.number, points.size, channel.title, channel.colour)
        end

        def entries(graph, starts)
          starts.flat_map { |start| start.channel? ? [Source::Entry.new(point: start, delay: 0)] : Source::Walk.entries(graph, start) }.uniq.freeze
        end

        # Card returns that leave the desk past its mixer.
        def returns(show) = (show.outputs.values + show.personal_lanes.values).map(&:source).select { |point| point&.card? }.map(&:number).uniq.sort

        def of_return(show, graph, lane)
          track = show.tracks.values.find { |one| one.outputs.include?(lane) }
          title = track ? show.title_of(track) : Rig::Label.for(Rig::Point.card_return(lane))
          named("return/#{lane}", entries(graph, [Rig::Point.card_return(lane)]), nil, 1, title, track ? show.dye_of(track) : "iron")
        end

        def named(id, entries, number, width, title, dye)
          cue = CUES.find { |_, words| words.match?(title) }&.first
          Named.new(source: Source.new(id: id, entries: entries), number: number, width: width, title: title, dye: dye, cue: cue)
        end
      end
    end
  end
end
