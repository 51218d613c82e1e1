# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module Player
    # A song that lies ready or plays, and the one after it, without sockets, threads or files of its own: told to make the next block, it
    # gives what every output carries. Commands are done at a sample of the clock. One thread makes blocks; commands come from any.
    class Deck
      # Seconds until a stopped song is silent, and everything in a panic.
      STOP, PANIC = 0.010, 0.005
      # What makes it silent: a beginning that was asked for before is not done after it.
      SILENCES = %w[stop fade].freeze
      private_constant :SILENCES

      attr_reader :rate, :outputs, :time

      # @param outputs [Integer]
      # @param on_end [Proc] called once a song has come to its end, or was faded out; takes what was on
      def initialize(rate:, outputs:, on_end: ->(_) {})
        @rate, @outputs, @on_end = rate, outputs, on_end
        @mix, @gain, @orders = Mix.new(outputs), Gain.new, Orders.new
        @time, @playing = 0, false
        @doing = Monitor.new # held while a block is made and while a command is done; asks nobody
      end

      # @return [Loaded, nil]
      attr_reader :loaded, :following

      # Puts a song on; what plays goes on until it is through.
      # @param loaded [Loaded]
      def load(loaded)
        @doing.synchronize do
          raise Invalid.new("#{@loaded.song.name} plays; stop it first.", where: "song") if @playing

          put_on(loaded)
        end
      end

      # What comes after the song that is on; nil: nothing.
      # @param loaded [Loaded, nil]
      def follow_with(loaded) = @doing.synchronize { @following = loaded }

      # @param roles [Array<Songs::Role>] from now on
      def roles=(roles)
        @doing.synchronize { [@loaded, @following].compact.each { |one| one.material.roles = roles } }
      end

      # @param what [String] "play", "stop", "fade", "panic", "jump", "around", "stop at", "take back"
      # @param at [Integer, nil] sample of the clock; nil: with the next block
      def command(what, at: nil, **with)
        @orders.drop("play", at || @time) if SILENCES.include?(what)
        return @orders.add(at, what, with) if at && at > @time

        @doing.synchronize { obey(what, with) }
      end

      # @return [Boolean]
      def playing? = @playing

      # The clock is elsewhere: what plays goes on, counted from there; what was to be done at a time is not done any more.
      # @param time [Integer]
      def at(time)
        @doing.synchronize do
          @begins += time - @time if @begins
          @time = time
          @orders.clear
        end
      end

      # @param frames [Integer]
      # @return [Numo::SFloat] [outputs, frames] full scale 1.0
      def render(frames)
        block = Numo::SFloat.zeros(@outputs, frames)
        @doing.synchronize do
          done = 0
          done += piece(block, done, frames - done) while done < frames
        end
        block
      end

      # @return [Hash] for people: what plays and where, what was asked
      def status = @doing.synchronize { DeckStatus.of(self, @walk, @gain, @held) }

      # @return [Integer] commands whose time has not come
      def waiting = @orders.size

      # @return [Hash] time of the clock; song, whether it plays and is not about to be silent, and its sample at that time
      def place
        @doing.synchronize { { "time" => @time, "song" => @loaded&.song&.id, "playing" => @playing && !@gain.why, "position" => @playing ? @walk.position : @held } }
      end

      # @return [Integer] frames until the end of the song that plays; 0 where none does
      def left = @playing ? @walk.left : 0

      # @return [Integer] pieces that were not in memory in time
      def missed = @mix.missed.to_i

      private

      def put_on(loaded)
        @loaded, @walk, @held = loaded, nil, nil
        @gain.rise
      end

      # Up to the next command.
      def piece(block, done, most)
        while (order = @orders.due(@time))
          alone { obey(order.what, order.details) }
        end
        due = @orders.next_at
        size = due ? [most, due - @time].min : most
        size = begin_following(size) if @begins
        size = play(block, done, size) if @playing
        @time += size
        over if @playing && (@walk.over? || @gain.silent?)
        size
      end

      # A command that cannot be done when its time has come hinders nothing.
      def alone
        yield
      rescue Invalid => e
        Runtime::Log.now.warn(e.message)
      end

      # @return [Integer] frames until the song's end, no more than size
      def play(block, done, size)
        whole = size == block.shape[1]
        part = whole ? block : Numo::SFloat.zeros(@outputs, size)
        @mix.add(@loaded.material, @walk.take(size), part)
        @gain.turn(part)
        block[true, done...(done + size)] = part unless whole
        @loaded.material.stock.play_from(@walk.position, @walk.after&.sample)
        @walk.over? ? @walk.taken : size
      end

      def halt
        @playing = false
        @held = @walk.over? ? nil : @walk.position
        @gain.rise
      end

      def over
        halt
        return unless @walk.over?

        go_on = @loaded.goes_on
        begin_later(go_on) if go_on && @following
        @on_end.call(@loaded)
      end

      def begin_later(seconds) = @begins = @time + (seconds * @rate).round

      # @return [Integer] frames until it begins, no more than size
      def begin_following(size)
        return [size, @begins - @time].min if @begins > @time

        @begins = nil
        following, @following = @following, nil
        return size unless following

        put_on(following)
        start
        size
      end

      def start(section: nil, sample: nil)
        @walk = Songs::Walk.new(@loaded.song, @loaded.tonight, section: section, sample: sample)
        @gain.rise
        @playing = true
        @held = nil
      end

      def obey(what, with)
        raise Invalid.new("No song is on; choose one first.", where: "song") unless @loaded

        case what
        when "play" then begin_playing(**with)
        when "panic" then silence(**with)
        when "stop" then fall(STOP, :stop)
        when "fade" then fall(with.fetch(:seconds), :fade)
        when "jump" then walking.jump(with.fetch(:section), at: with.fetch(:at_next, "bar"))
        when "around" then walking.around = with.fetch(:on, true)
        when "stop at" then walking.stop(at: with.fetch(:at_next, "section"))
        when "take back" then @begins ? @begins = nil : walking.take_back
        else raise Invalid.new("There is no command #{Text.readable(what, most: 40)}.", where: "command")
        end
      end

      def begin_playing(section: nil, sample: nil)
        raise Invalid.new("#{@loaded.song.name} plays already.", where: "song") if @playing && !@gain.why

        @begins = nil
        sample ||= @held unless section
        start(section: section, sample: sample)
      end

      def fall(seconds, why)
        @begins = nil
        return unless @playing

        frames = (seconds * @rate).round
        frames.positive? ? @gain.fall(frames, why) : halt
      end

      # Whoever has sent ahead turns that down himself, and goes on in silence.
      def silence(ramp: true)
        @orders.clear
        fall(ramp ? PANIC : 0, :panic)
      end

      def walking = @playing ? @walk : raise(Invalid.new("Nothing plays.", where: "song"))
    end
  end
end
