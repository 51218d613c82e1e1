# frozen_string_literal: true

module Loomshuttle
  module Steps
    # What is still free while a patch is proposed: sockets, card lanes and tracks. Handing one out takes it.
    class Available
      # @param show [Settings::Show]
      # @param promised [Array<String>] sockets that somebody asks for; others get them only when nothing else is free
      def initialize(show, promised: [])
        @show = show
        @promised = promised
        @sockets = show.layout.sources.reject { |source| source.missing || source.point.start_with?("card/") }.map(&:point)
        @taken = set(show.channels.values.reject { |channel| channel.name.empty? && !channel.fixed }.filter_map(&:stage))
        @tracks = set(show.tracks.values.reject(&:free?).map(&:number))
        @partner_tracks = {}
        lanes_now
      end

      # @return [Boolean] whether a track takes the channel already
      def captured?(number) = @captured.key?(number)

      # @param wanted [String, nil] asked for by the list   @param spot [String, nil] where the source stands
      # @return [String, nil] a stage source
      def socket(number, wanted: nil, spot: nil)
        free = @sockets.reject { |point| @taken[point] }
        others = free - @promised
        point = [wanted].compact.find { |one| free.include?(one) } || straight(others, number, spot) || others.first || free.first
        @taken[point] = true if point
        point
      end

      # @param side [:left, :right, nil]
      # @return [Integer, nil] a card lane: one that carries the channel already, else the channel's own, else one that is free
      #   both ways; a pair stands on odd and even
      def lane(number, side)
        lane = case side
               when :left then pair(number)
               when :right then @right
               else @idle["desk/ch/#{number}"] || single(number)
               end
        take_lane(lane, side) if lane
        lane
      end

      # @return [Boolean] whether nothing else plays to a return, and nobody but the channel hears it on take
      def return?(lane, number) = !@returns[lane] && (@hearing.fetch(lane, []) - [number]).empty?

      # @return [Integer, nil] the lane's own track if it is free, else the next one
      def track(lane, side)
        return @partner_tracks[lane] if side == :right

        free = @show.tracks.keys.reject { |number| @tracks[number] }
        number = free.include?(lane) ? lane : free.find { |one| one > lane } || free.first
        @tracks[number] = true if number
        # A stereo track leaves the next number free, so that the tracks behind it keep their lanes' numbers.
        @tracks[number + 1] = true if number && side == :left
        @partner_tracks[lane + 1] = number if side == :left
        number
      end

      private

      def set(list) = list.to_h { |one| [one, true] }

      # Lanes in use either way, channels whose sends a track takes already, and sends that wait for one.
      def lanes_now
        inputs = @show.tracks.values.flat_map(&:inputs)
        taken, idle = @show.sends.values.select(&:source).partition { |send| inputs.include?(send.lane) }
        @lanes = set((taken + idle).map(&:lane) + inputs)
        @returns = returns_taken
        @hearing = hearing
        @captured = set(taken.filter_map { |send| @show.channel_at(send.source)&.number })
        @idle = idle.to_h { |send| [send.source, send.lane] }
      end

      # Card return => channels that hear it on take; a stereo one hears two.
      def hearing
        @show.channels.values.select(&:take).each_with_object({}) do |channel, found|
          first = channel.take[/\d+\z/].to_i
          @show.profile.strip(channel.number).width.times { |side| (found[first + side] ||= []) << channel.number }
        end
      end

      # What tracks and the recorder's own mix play to, and what channels hear as their stage.
      def returns_taken
        heard = @show.channels.values.filter_map { |channel| channel.stage if channel.stage.to_s.start_with?("card/") }.map { |point| point[/\d+\z/].to_i }
        set(@show.tracks.values.flat_map(&:outputs) + @show.setup.own_mix + heard)
      end

      def last_lane = [@show.card_lanes, @show.profile.sends, @show.profile.returns].min

      def single(number) = best((1..last_lane).reject { |lane| @lanes[lane] }, number) { |lane| return?(lane, number) }

      def pair(number)
        starts = (1...last_lane).step(2).reject { |lane| @lanes[lane] || @lanes[lane + 1] }
        best(starts, number) { |lane| return?(lane, number) && return?(lane + 1, number + 1) }
      end

      # The lane that the channel hears on take already, or its own, if it is free both ways; else the first that is; else
      # the first that is free on the way in.
      def best(lanes, number, &)
        both = lanes.select(&)
        [@show.channels[number].take.to_s[/\d+\z/].to_i, number].find { |lane| both.include?(lane) } || both.first || lanes.first
      end

      def take_lane(lane, side)
        @lanes[lane] = true
        @right = side == :left ? lane + 1 : nil
        @lanes[lane + 1] = true if side == :left
      end

      # At the box that stands where the source does; there the socket of the channel's own number, else the next one.
      def straight(free, number, spot)
        near = spot ? free.select { |point| spot_of(point) == spot } : []
        near = free if near.empty?
        near.find { |point| point[/\d+\z/].to_i == number && point.start_with?(first_family) } || near.first
      end

      def spot_of(point)
        @spots ||= @show.layout.hung.to_h { |hung| [hung.id, @show.boxes[hung.id.delete_prefix("box-")].spot] }
        @spots[@show.layout.socket_of(point)[%r{\A[^/]+}]]
      end

      def first_family = @first_family ||= @sockets.first.to_s.sub(/\d+\z/, "")
    end
  end
end
