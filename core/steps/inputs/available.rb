# frozen_string_literal: true

module Loomshuttle
  module Steps
    # Free sockets, card lanes and tracks during a step. Each is handed out once. Each list is searched from its first free item, so the cost of a
    # whole input list grows in proportion to its length.
    class Available
      # @param show [Settings::Show]
      # @param promised [Array<Rig::Point>] sockets that other lines ask for; given away only if nothing else is free
      # @param leaving [Array<Integer>] channels that give up their socket
      def initialize(show, promised: [], leaving: [])
        @show = show
        staying = show.channels.values.reject { |channel| (channel.name.empty? && !channel.fixed) || leaving.include?(channel.number) }
        @taken = set(staying.flat_map { |channel| sockets_of(channel) })
        @asked, @kept = {}, []
        @tracks = set(show.tracks.values.reject(&:free?).map(&:number))
        @free_tracks = show.tracks.keys
        @partner_tracks = {}
        sockets_now(promised)
        lanes_now
      end

      # @return [Boolean] whether a track already records the channel
      def captured?(number) = @captured.key?(number)

      # @param wanted [Rig::Point, nil] requested by the list   @param spot [String, nil] where on stage the source is
      # @return [Rig::Point, nil] a stage source; nil if none is free
      def socket(number, wanted: nil, spot: nil)
        return stereo_socket(wanted) if stereo?(number)

        kept = @kept.shift
        point = (kept if free?(kept)) || (wanted if obtainable?(wanted)) || straight(number, spot) || first(@sockets) { |one| free?(one) }
        @taken[point] = true if point
        @asked[point] = true if point && point == wanted
        point
      end

      # Keeps two neighbouring sockets of one box for the two sides of a pair, which ask for theirs next: those that the list names, if both can be had,
      # else free ones. Without any, each side is on its own.
      # @param number [Integer] the left side's channel   @param left [Rig::Point, nil]   @param right [Rig::Point, nil]   @param spot [String, nil]
      def neighbours(number, left, right, spot: nil)
        asked = [left, right].compact
        @kept = asked.any? && asked.all? { |point| obtainable?(point) } ? [] : neighbours_near(number, spot)
      end

      # Two lines may share a socket: two treatments of one sound. A card return goes to the line that asks for it.
      # @return [Boolean] whether a line that asks for the point gets it
      def obtainable?(point) = free?(point) || @asked[point] || (point&.card? && !@taken[point] && !@returns[point.number] && !@hearing.key?(point.number))

      # Marks a point that a line of the list already has, as requested.
      def asked(point) = @asked[point] = true

      # @param side [:left, :right, :stereo, nil] a right side comes directly after its left one
      # @return [Integer, nil] a card lane: the one that carries the channel already, else the lane of the channel's number, else one free
      #   both ways; a pair, or a stereo channel, takes an odd lane and the next
      def lane(number, side)
        lane = case side
               when :left then pair(number)
               when :right then @right
               when :stereo then stereo(number)
               else @idle[Rig::Point.desk("ch", number)] || single(number)
               end
        take_lane(lane, side) if lane
        lane
      end

      # @return [Boolean] whether a return is unused, except by the channel itself as its take source
      def return?(lane, number) = !@returns[lane] && (@hearing.fetch(lane, []) - [number]).empty?

      # @return [Integer, nil] the track of the lane's number if free, else the next free one
      def track(lane, side)
        return @partner_tracks[lane] if side == :right

        number = next_track(lane)
        @tracks[number] = true if number
        # A stereo track leaves the next number free, so that the tracks behind it keep their lanes' numbers.
        @tracks[number + 1] = true if number && side
        @partner_tracks[lane + 1] = number if side == :left
        number
      end

      private

      def stereo?(number) = @show.profile.strip(number).width == 2

      # The stage sources that a channel uses: two of a stereo one.
      def sockets_of(channel) = [channel.stage, (channel.stage&.beside(1) if stereo?(channel.number))].compact

      # An odd socket and the next one.
      def stereo_socket(wanted)
        point = wanted if wanted && both?(wanted) { |one| obtainable?(one) }
        point ||= (@others + @sockets).find { |one| both?(one) { |half| free?(half) } } or return
        [point, point.beside(1)].each { |one| @taken[one] = true }
        @asked[point] = true if point == wanted
        point
      end

      def both?(point, &) = point.number.odd? && [point, point.beside(1)].all?(&)

      def set(list) = list.to_h { |one| [one, true] }

      # @return [Object, nil] the first of a list that is free still; those before it are forgotten
      def first(list)
        list.shift until list.empty? || yield(list.first)
        list.first
      end

      def next_track(lane)
        return lane if @show.tracks.key?(lane) && !@tracks[lane]

        lowest = first(@free_tracks) { |number| !@tracks[number] }
        @free_tracks.find { |number| number > lane && !@tracks[number] } || lowest
      end

      # By where their boxes stand, too; those that nobody asks for.
      def sockets_now(promised)
        @sockets = @show.layout.sources.reject { |source| source.missing || source.point.card? }.map(&:point)
        @family = @sockets.first
        @known = set(@sockets)
        @promised = set(promised)
        # A microphone does not fit into a digital socket: that is given only to who asks for it.
        @sockets = @sockets.reject { |point| @show.profile.digital?(point) }
        @others = @sockets.reject { |point| @promised[point] }
        @near = @others.group_by { |point| spot_of(point) }
      end

      def free?(point) = @known.key?(point) && !@taken[point]

      # Lanes in use either way, channels whose sends a track takes already, and sends that wait for one.
      def lanes_now
        inputs = @show.tracks.values.flat_map(&:inputs)
        taken, idle = @show.sends.values.select(&:source).partition { |send| inputs.include?(send.lane) }
        @lanes = set((taken + idle).map(&:lane) + inputs)
        @returns = returns_taken
        @hearing = hearing
        @captured = set(taken.filter_map { |send| @show.channel_at(send.source)&.number })
        @idle = idle.to_h { |send| [send.source, send.lane] }
        @last_lane = [@show.card_lanes, @show.profile.sends, @show.profile.returns].min
        @singles = (1..@last_lane).to_a
        @pairs = (1...@last_lane).step(2).to_a
      end

      # Card return => channels that hear it on take; a stereo one hears two.
      def hearing
        @show.channels.values.select(&:take).each_with_object({}) do |channel, found|
          @show.profile.strip(channel.number).width.times { |side| (found[channel.take.number + side] ||= []) << channel.number }
        end
      end

      # What tracks and the recorder mix play to, and what channels hear as their stage.
      def returns_taken
        heard = @show.channels.values.select(&:card_fed?).map { |channel| channel.stage.number }
        set(@show.tracks.values.flat_map(&:outputs) + @show.setup.own_mix + heard)
      end

      def single(number) = best(@singles, number, ->(lane) { open?(lane) }, ->(lane) { return?(lane, number) })

      def pair(number)
        best(@pairs, number, method(:open_pair?), ->(lane) { return?(lane, number) && return?(lane + 1, number + 1) })
      end

      def stereo(number) = best(@pairs, number, method(:open_pair?), ->(lane) { [lane, lane + 1].all? { |one| return?(one, number) } })

      def open_pair?(lane) = lane.odd? && open?(lane) && open?(lane + 1)
      def open?(lane) = lane.between?(1, @last_lane) && !@lanes[lane]

      # The lane that the channel hears on take already, or its own, if it is free both ways; else the first that is; else
      # the first that is free on the way in.
      # @param open [Proc] whether a lane is free on the way in   @param back [Proc] and on the way back
      def best(lanes, number, open, back)
        lowest = first(lanes, &open)
        both = ->(lane) { open.call(lane) && back.call(lane) }
        [@show.channels[number].take&.number || 0, number].find(&both) || lanes.find(&both) || lowest
      end

      def take_lane(lane, side)
        @lanes[lane] = true
        @right = side == :left ? lane + 1 : nil
        @lanes[lane + 1] = true if %i[left stereo].include?(side)
      end

      # At the box that stands where the source does; there the socket of the channel's own number, else the next one.
      def straight(number, spot)
        near = spot && first(@near.fetch(spot, [])) { |point| free?(point) }
        own = @family&.beside(number - @family.number)
        return own if own && free?(own) && !@promised[own] && (near.nil? || spot_of(own) == spot)

        near || first(@others) { |point| free?(point) }
      end

      def neighbours_near(number, spot)
        first = [@family&.beside(number - @family.number), *(spot && @near[spot]), *@others].compact
        first.map { |point| [point, point.beside(1)] }.find { |pair| pair.all? { |point| free?(point) && !@promised[point] } && one_box?(*pair) } || []
      end

      def one_box?(left, right)
        one, two = [left, right].map { |point| @show.layout.socket_of(point) }
        one && two && two == one.beside(1)
      end

      def spot_of(point)
        socket = @show.layout.socket_of(point)
        @show.boxes[socket.letter].spot if socket.box?
      end
    end
  end
end
