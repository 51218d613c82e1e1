# frozen_string_literal: true

module Loomshuttle
  module Steps
    # Moves a pair, or a run, of card returns or card sends with all that refers to it: of returns the tracks that play to them, the channels, outputs
    # and personal mixes that hear them, the recorder mix and the requirements; of sends their source, tap and the tracks that record them. What is at
    # the new place comes to the old one, so nothing is lost.
    class MoveLanes
      WORDS = { "return" => "card return", "send" => "card send" }.freeze
      private_constant :WORDS

      # @param show [Settings::Show]   @param way ["return", "send"]   @param from [Integer] lane   @param to [Integer] lane   @param count [Integer]
      # @return [Settings::Edit]
      # @raise [Invalid] if the card has no such lanes, if the two runs overlap, or if returns belong to playback
      def self.edit(show, way, from:, to:, count: 2) = new(show, way, from, to, count).edit

      def initialize(show, way, from, to, count)
        @show, @way = show, way
        @old, @new = [from, to].map { |first| (first...(first + count)).to_a }
        check
        @moves = @old.zip(@new).to_h.then { |moves| moves.merge(moves.invert) }
      end

      # @return [Settings::Edit]
      def edit
        settings = @way == "return" ? returns : sends
        settings = settings.reject { |path, value| @show.get(path) == value }
        raise Invalid.new("Nothing uses #{run(@old)} or #{run(@new)}, so there is nothing to move.", where: "from") if settings.empty?

        Settings::Edit.set("Move #{run(@old)} to #{run(@new)}", Completed.settings(@show, settings))
      end

      private

      def check
        has = @way == "return" ? @show.profile.returns : @show.profile.sends
        beyond = ([*@old, *@new] - (1..has).to_a).first
        raise Invalid.new("The #{@show.profile.name} has #{WORDS.fetch(@way)}s 1 to #{has}, and #{beyond} would be needed.", where: "to") if beyond
        raise Invalid.new("#{run(@old).capitalize} and #{run(@new)} overlap; choose lanes #{@old.size} further, or more.", where: "to") if @old.intersect?(@new)

        played = @way == "return" ? @show.playback_returns.map(&:number) & [*@old, *@new] : []
        raise Invalid.new("#{run(played).capitalize} #{played.size == 1 ? 'belongs' : 'belong'} to playback; change its card returns in Rig.", where: "to") if played.any?
      end

      def run(lanes) = lanes.size == 1 ? "#{WORDS.fetch(@way)} #{lanes.first}" : "#{WORDS.fetch(@way)}s #{lanes.first} to #{lanes.last}"

      def lanes(list) = list.map { |lane| @moves.fetch(lane, lane) }

      def returns
        heard = points("channel", @show.channels, %i[stage take]).merge(points("output", @show.outputs, %i[source]), points("personal", @show.personal_lanes, %i[source]))
        heard.merge(tracks(:outputs), "setup/own_mix" => lanes(@show.setup.own_mix)).merge(wishes)
      end

      def points(collection, items, fields)
        items.values.product(fields).filter_map do |item, field|
          point = item[field]
          ["#{collection}/#{item.number}/#{field}", Rig::Point.card_return(@moves[point.number]).name] if point&.card_return? && @moves[point.number]
        end.to_h
      end

      def wishes
        @show.wishes.values.to_h do |wish|
          ["wish/#{wish.number}/sources", wish.sources.map { |id| id.sub(%r{\Areturn/(\d+)\z}) { "return/#{@moves.fetch(Regexp.last_match(1).to_i, Regexp.last_match(1))}" } }]
        end
      end

      def tracks(field) = @show.tracks.values.reject { |track| track[field].empty? }.to_h { |track| ["track/#{track.number}/#{field}", lanes(track[field])] }

      def sends
        @moves.reduce(tracks(:inputs)) do |settings, (lane, to)|
          send = @show.sends[lane]
          settings.merge("send/#{to}/source" => send.source&.name, "send/#{to}/tap" => send.tap)
        end
      end
    end
  end
end
