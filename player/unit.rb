# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module Player
    # A whole player without sockets or threads: its clock, the deck, the running order, and what leaves for each output. The process and
    # the tests' virtual clock both drive this. `hear` is called by one thread, everything else by any.
    class Unit
      # Frames that are made at once, and of a packet.
      BLOCK, PACKET = 480, 48
      # An interface waits for what it plays; the desk's card does not, so that its returns are sent further ahead (frames: 50 ms at 48 kHz).
      CARD_AHEAD = 2400
      # No clock for so long (seconds), and there is none.
      LOST = 0.5
      # Frames between two reports of levels, and seconds between two that say the same.
      METERS, SAME = 2400, 0.5

      attr_reader :deck, :order, :clock, :rate
      # @return [Opener] to be started where songs are not to be opened by whoever asks
      attr_reader :opener

      # @param rate [Integer]   @param streams [Array<Formats::Sdp::Stream>] of the outputs
      # @param library [SongReader]   @param config [Config]   @param outputs [Integer] that songs can use, whatever the streams carry
      # @param now [Proc] monotonic time in seconds
      # @param send [Proc] takes stream index and RTP bytes
      def initialize(rate:, streams:, library:, config:, now:, outputs: streams.sum(&:lanes), &send)
        @rate, @config, @now = rate, config, now
        @outputs = outputs
        @clock, @pilot, @horizon = Clock.new, Pilot.new(rate), Horizon.new
        @deck = Deck.new(rate: rate, outputs: @outputs, on_end: ->(loaded) { @order.ended(loaded) })
        @opener = Opener.new
        @order = Order.new(@deck, library, config, opener: @opener)
        @wish = 0 # counts what was asked for: a song that begins once it is open begins only if nothing was asked since
        @session, @send = Random.rand(1 << 31), send
        leave_by(streams)
        @sending = Mutex.new # held while a block is made and sent, and in a panic; then Deck's own
        @levels = Levels.new(@outputs)
        take_over
      end

      # @param leader [#tell, #count, #told, nil] whom others follow by   @param follower [#status, nil]
      # @param foot [#status, nil]   @param sound [Proc] gives words about the sound card that it plays to, or nil
      attr_writer :leader, :follower, :foot, :sound

      # @param cut [Proc] ends at once what a sound card still has to play, and gives whether there is one
      attr_writer :cut

      # @param before_play [Proc] called before a song begins: it leaves by the way that is set by now
      attr_writer :before_play

      # @param on_meters [Proc] takes what Levels gives   @param on_state [Proc] called when something has changed
      attr_writer :on_meters, :on_state

      # Sends the outputs by other streams from now on. @param streams [Array<Formats::Sdp::Stream>] output 1 is lane 1 of the first
      # @param sparing [Boolean] whether to send nothing during silence   @param together [Boolean] whether to send all packets of a block at once (Formats::RtpOut)
      def leave_by(streams, sparing: true, together: false)
        @out = Formats::RtpOut.new(streams, packet: PACKET, session: @session, sparing: sparing, together: together, &@send)
      end

      # Receives the clock of the interface or the desk's card.
      # @param bytes [String] RTP
      def hear(bytes)
        packet = Formats::Rtp.unpack(bytes) or return
        heard = @clock.hear(packet, @now.call) or return
        @heard_at = @now.call
        if heard == :jumped || @deck.time < @clock.time
          @horizon.clear
          @deck.at(@clock.time + buffer)
        end
        make while @deck.time + BLOCK <= @clock.time + buffer
      end

      # @return [Boolean]
      def clock? = !@heard_at.nil? && @now.call - @heard_at < LOST

      # Reads ahead. @return [Boolean] whether there was anything to do
      def fill = @order.fill

      # The single-key command: starts the loaded song (or the next, if it has ended), or leaves a loop while playing.
      # @param waiting [Boolean] whether to wait until the song is open; a foot switch does not
      # @return [Hash] status
      # @raise [Invalid]
      def go(waiting: true)
        now = status
        return command("around", on: false) if now["state"] == "playing" && now["around"]
        raise Invalid.new("#{now['name']} plays already.", where: "go") if now["state"] == "playing"

        item = to_begin(now)
        return command("play") if now["item"] == item && now["state"] != "pausing"

        wish = @wish += 1
        begin_it = -> { command("play") if wish == @wish }
        return put_on_and(item, begin_it) unless waiting

        load(item: item, wish: wish)
        begin_it.call || status
      end

      # @param changes [Hash] fields of Config; absent ones stay as they are
      # @return [Hash] status
      def configure(**changes)
        @config.change(changes.transform_keys(&:to_s))
        take_over
        changed
        status
      end

      # Switches playback to a sound card of this computer; only while nothing plays.
      # @param id [String, nil] from the list; nil for the interface or the desk's card
      # @return [Hash] status
      # @raise [Invalid] if it is missing, is busy, or does not run at this rate
      def play_by(id)
        return status if id && @sound&.call&.fetch("id") == id # it is busy with us

        configure(sound: id && able(Runtime::SoundDevices.look_out(id)).to_h.transform_keys(&:to_s))
      end

      # @param what [String] as Deck#command
      # @return [Hash] status
      def command(what, at: nil, **with)
        raise Invalid.new("No clock from #{leader_of_time}; playback is stopped. Check its cable, and the Rig page.", where: "clock") unless clock? || what != "play"

        @wish += 1
        at = lead(what, at, with) if @leader&.count.to_i.positive?
        obey(what, at, with)
        status
      end

      # Runs a command of the leader, or one given here.
      # @param with [Hash] arguments; names may be strings
      def obey(what, at, with)
        begin_song if what == "play"
        what == "panic" ? panic : @deck.command(what, at: at, **with.transform_keys(&:to_sym))
        changed
      end

      # @param song [String] id of the song that the leader loaded; it is opened while the leader's commands arrive
      def follow_load(song)
        item = @config["items"].find { |one| one["song"] == song } or raise Invalid.new("The main player’s song is not in this running order.", where: "item")
        return if @deck.playing? || @deck.loaded&.item == item["key"]

        @deferred = nil
        @opening = item["key"]
        @order.put_on_later(item["key"]) { opened_for_leader }
      end

      # Follows a command of the leader. A song that is still being opened starts at its sample, if it is open by then.
      def follow_command(what, at, with)
        return @deferred = [what, at, with] if what == "play" && @opening && @deck.loaded&.item != @opening

        @deferred = nil unless what == "play"
        obey(what, at, with)
      end

      # @return [Hash] time of the clock, what plays, and its position at that time
      def place = @deck.place

      # Sends the state to the followers.
      def tell_state(digest)
        place = @deck.place
        @leader&.tell("state", digest: digest, **place.transform_keys(&:to_sym))
      end

      # @param item [Integer] of the running order
      # @param wish [Integer, nil] number of the request, so that only the newest counts
      # @return [Hash] status
      # @raise [Invalid]
      def load(item:, wish: nil)
        @wish += 1 unless wish
        @order.put_on(item)
        @leader&.tell("load", song: @deck.loaded.song.id)
        changed
        status
      end

      # @return [Hash] the whole state, for people
      def status
        @deck.status.merge("clock" => clock?, "time" => @deck.time, "outputs" => @outputs, "limited" => @levels.told_limited, "output_rate" => @rate, "restarts" => @clock.restarts,
                           "code" => @config["code"], "followers" => @leader ? @leader.told : [], "follows" => @follower&.status,
                           "buffer" => buffer, "items" => @order.told, "by_card" => by_card?, "sound" => @sound&.call,
                           "pilot" => !@config.pilot.nil? && clock?, "problem" => @order.problem, "foot" => @foot&.status)
      end

      private

      # @return [Hash] status
      def put_on_and(item, begin_it)
        @order.put_on_later(item) do
          @leader&.tell("load", song: @deck.loaded.song.id)
          begin_it.call
          changed
        end
        status
      end

      def opened_for_leader
        @opening = nil
        what, at, with = @deferred
        @deferred = nil
        obey(what, at, with) if what && (at.nil? || at > @deck.time) # later than that it falls in (Follower)
        changed
      end

      # @return [Runtime::SoundDevices::Device] that can be played to as songs are
      def able(device)
        raise Invalid.new("#{device.words} does not run at #{@rate} Hz.", where: "sound") unless @rate.between?(*device.rates)
        raise Invalid.new("#{device.words} has no outputs.", where: "sound") if device.outputs.zero?

        device
      end

      # The first that was not played yet, from the one that is on.
      def to_begin(now)
        items = now["items"]
        at = items.index { |one| one["key"] == now["item"] }
        return now["item"] if at && now["state"] != "pausing" && (now["state"] == "stopped" || !items[at]["played"])

        following = items.drop(at ? at + 1 : 0).first or raise Invalid.new("The running order is finished.", where: "go")
        following["key"]
      end

      # @return [Integer, nil] sample at which all do it: nil: at once
      def lead(what, at, with)
        at ||= @deck.time + Twin::AHEAD unless what == "panic"
        @leader.tell("do", what: what, with: with, at: at)
        at
      end

      def begin_song
        @levels.forget_limited
        @before_play&.call
      end

      def buffer = by_card? ? [@config["buffer"], CARD_AHEAD].max : @config["buffer"]
      def changed = @on_state&.call
      def by_card? = @config["returns"].any?

      def leader_of_time
        return "the sound card" if @config.sound

        by_card? ? "the desk's card" : "the playback interface"
      end

      def take_over
        @pilot.tone = @config.pilot
        @deck.roles = @config.roles
        @order.renew
      end

      def make
        # In one go, so that nothing that was made before a panic is sent behind it.
        whole = @sending.synchronize do
          time = @deck.time
          block = @deck.render(BLOCK)
          @horizon.keep(block, time)
          send_block(block, time)
        end
        @levels.add(whole)
        tell_levels if @levels.frames >= METERS
      end

      # @param again [Boolean] whether something else was sent for that time before
      # @return [Numo::SFloat] what was sent, with the pilot
      def send_block(block, time, again: false)
        whole = block.frozen? ? @pilot.alone(block, time) : block.dup.tap { |one| @pilot.add(one, time) }
        samples = samples(whole)
        again ? @out.write(samples, time, sparing: false) : @out.write(samples, time)
        whole
      end

      # While nothing plays it is the same block again and again, and so are its samples.
      def samples(whole)
        return @samples if whole.frozen? && whole.equal?(@samples_of)

        samples = Audio::Pcm24.limit(whole) { |limited| @levels.all_limited(limited) }.transpose
        @samples_of, @samples = whole, samples.freeze if whole.frozen?
        samples
      end

      def tell_levels
        levels = @levels.take.merge(@deck.status.slice("state", "song", "item", "position", "bar", "beat", "section", "left", "rounds", "around"))
        return if levels == @told && (@deck.time - @told_at).abs < SAME * @rate

        @told, @told_at = levels, @deck.time
        @on_meters&.call(levels)
      end

      # What is on its way is sent again, turned down, and silence as well; everything behind it is silent. A sound card forgets what it has.
      def panic
        @sending.synchronize do
          @deck.command("panic", ramp: false)
          next @horizon.clear if @cut&.call

          @horizon.turn_down(@clock.time || 0, (Deck::PANIC * @rate).round) { |block, time| send_block(block, time, again: true) }
        end
      end
    end
  end
end
