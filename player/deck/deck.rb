# frozen_string_literal: true

require "monitor"
require "numo/narray"

module Loomshuttle
  module Player
    # A song that lies ready or plays, and the one after it, without sockets, threads or files of its own: told to make the next block, it
    # gives what every output carries. Commands are done at a sample of the clock. One thread makes blocks; commands come from any.
    #
    # It is in one state at any time:
    #   none      no song is loaded
    #   ready     a song is loaded, or has come to its end        stopped   it was stopped in the middle
    #   playing   it is heard                                     falling   it is being faded out or stopped
    #   pausing   the song is over, and the next one starts automatically after a pause
    class Deck
      # Seconds until a stopped song is silent, and everything in a panic.
      STOP, PANIC = 0.010, 0.005
      # What makes it silent: a beginning that was asked for before is not done after it.
      SILENCES = %w[stop fade].freeze
      HEARD = %i[playing falling].freeze
      # Where each command may be given. What silences may be given anywhere.
      ALLOWED = { "play" => %i[ready stopped falling pausing], "jump" => %i[playing], "around" => %i[playing], "stop.at" => %i[playing],
                  "take.back" => %i[playing falling pausing], "stop" => nil, "fade" => nil, "panic" => nil }.freeze
      # What each command takes, and whether it must be there.
      TAKES = { "play" => { section: false, sample: false }, "jump" => { section: true, at_next: false }, "around" => { on: false }, "stop.at" => { at_next: false },
                "take.back" => {}, "stop" => {}, "fade" => { seconds: true }, "panic" => { ramp: false } }.freeze
      private_constant :SILENCES, :HEARD, :ALLOWED, :TAKES

      attr_reader :rate, :outputs, :time

      # @param outputs [Integer]
      # @param on_end [Proc] called with the Loaded song after it ended or was faded out
      def initialize(rate:, outputs:, on_end: ->(_) {})
        @rate, @outputs, @on_end = rate, outputs, on_end
        @mix, @gain, @orders = Mix.new(outputs), Gain.new, Orders.new
        @time, @state = 0, :none
        @doing = Monitor.new # held while a block is made and while a command is done; asks nobody
      end

      # @return [Symbol] as above
      attr_reader :state
      # @return [Loaded, nil]
      attr_reader :loaded

      # @return [Loaded, nil]
      def following = @following == :opening ? nil : @following

      # Loads a song. Cancels a pause and the song that would have followed it.
      # @param loaded [Loaded]
      # @raise [Invalid] if a song is playing
      def load(loaded)
        @doing.synchronize do
          raise Invalid.new("#{@loaded.song.name} plays; stop it first.", where: "song") if playing?

          put_on(loaded)
        end
      end

      # Sets what follows the loaded song: a song, :opening while that is still being opened, or nil.
      # @param loaded [Loaded, :opening, nil]
      def follow_with(loaded)
        @doing.synchronize do
          @following = loaded
          @state = :ready if @state == :pausing && loaded.nil?
        end
      end

      # @param roles [Array<Songs::Role>] new routing of the roles
      def roles=(roles)
        @doing.synchronize { [@loaded, following].compact.each { |one| one.material.roles = roles } }
      end

      # @param what [String] "play", "stop", "fade", "panic", "jump", "around", "stop.at", "take.back"
      # @param at [Integer, nil] sample of the clock; nil for the next block
      # @raise [Invalid] if the command is unknown, an argument is wrong, or the state does not allow it
      def command(what, at: nil, **with)
        check(what, with)
        @orders.drop("play", at || @time) if SILENCES.include?(what)
        return @orders.add(at, what, with) if at && at > @time

        @doing.synchronize { obey(what, with) }
      end

      # @return [Boolean] whether a song is playing
      def playing? = HEARD.include?(@state)

      # Follows a jump of the clock: playing and pending commands continue, counted from the new time.
      # @param time [Integer]
      def at(time)
        @doing.synchronize do
          @begins += time - @time if @begins
          @orders.shift_by(time - @time)
          @time = time
        end
      end

      # @param frames [Integer]
      # @return [Numo::SFloat] [outputs, frames], full scale 1.0; while nothing plays, always the same frozen array
      def render(frames)
        @doing.synchronize do
          @block = nil
          done = 0
          done += piece(frames, done) while done < frames
          @block || nothing(frames)
        end
      end

      # @return [Hash] status for people: what plays and where, what was asked
      def status = @doing.synchronize { DeckStatus.of(self, @walk, @gain, @held) }

      # @return [Integer] number of pending commands
      def waiting = @orders.size

      # @return [Hash] time of the clock, the song, whether it is playing (and not fading out), and its sample at that time
      def place
        @doing.synchronize { { "time" => @time, "song" => @loaded&.song&.id, "playing" => @state == :playing, "position" => playing? ? @walk.position : @held } }
      end

      # @return [Integer] frames until the end of the playing song; 0 if none plays
      def left = playing? ? @walk.left : 0

      # @return [Integer, nil] frames until the next song starts automatically; nil if none will
      def pause_left = @state == :pausing ? [@begins - @time, 0].max : nil

      # @return [Integer] pieces that were not read in time
      def missed = @mix.missed.to_i

      private

      def check(what, with)
        takes = TAKES[what] or raise Invalid.new("There is no command #{Text.readable(what, most: 40)}.", where: "command")
        strange = with.keys - takes.keys
        raise Invalid.new("#{what} takes no #{strange.join(', ')}.", where: "command") if strange.any?

        missing = takes.select { |_, needed| needed }.keys - with.keys
        raise Invalid.new("#{what} needs #{missing.join(', ')}.", where: "command") if missing.any?
      end

      def put_on(loaded)
        @loaded, @walk, @held, @begins = loaded, nil, nil, nil
        @state = :ready
        @gain.rise
      end

      def nothing(frames) = @nothing&.shape&.last == frames ? @nothing : @nothing = Numo::SFloat.zeros(@outputs, frames).freeze

      # Up to the next command. @return [Integer] frames further
      def piece(frames, done)
        while (order = @orders.due(@time))
          alone { obey(order.what, order.details) }
        end
        due = @orders.next_at
        size = due ? [frames - done, due - @time].min : frames - done
        size = begin_following(size) if @state == :pausing
        size = play(frames, done, size) if playing?
        @time += size
        over if playing? && (@walk.over? || @gain.silent?)
        size
      end

      # A command that cannot be done when its time has come hinders nothing.
      def alone
        yield
      rescue Invalid => e
        Runtime::Log.now.warn(e.message)
      rescue StandardError => e
        Runtime::Health.trouble(e, "a command")
      end

      # @return [Integer] frames until the song's end, no more than size
      def play(frames, done, size)
        @block ||= Numo::SFloat.zeros(@outputs, frames)
        whole = size == frames
        part = whole ? @block : Numo::SFloat.zeros(@outputs, size)
        @mix.add(@loaded.material, @walk.take(size), part)
        @gain.turn(part)
        @block[true, done...(done + size)] = part unless whole
        @loaded.material.stock.play_from(@walk.position, @walk.after&.sample)
        @walk.over? ? @walk.taken : size
      end

      def halt
        @held = @walk.over? ? nil : @walk.position
        @state = @held ? :stopped : :ready
        @gain.rise
      end

      # A song that has come to its end while it was being stopped has been stopped.
      def over
        ended = @walk.over? && !@walk.stopped? && @state == :playing
        through = @walk.over?
        halt
        return unless through

        pause = @loaded.goes_on
        begin_later(pause) if ended && pause && @following
        @on_end.call(@loaded)
      end

      def begin_later(seconds)
        @begins = @time + (seconds * @rate).round
        @state = :pausing
      end

      # A song that is still being opened begins as soon as it is there.
      # @return [Integer] frames until it begins, no more than size
      def begin_following(size)
        return [size, @begins - @time].min if @begins > @time
        return size if @following == :opening

        following, @following = @following, nil
        put_on(following)
        start
        size
      end

      def start(section: nil, sample: nil)
        @walk = Songs::Walk.new(@loaded.song, @loaded.tonight, section: section, sample: sample)
        @gain.rise
        @state = :playing
        @held = @begins = nil
      end

      def obey(what, with)
        allowed = ALLOWED.fetch(what)
        raise Invalid.new(refusal(what), where: "song") unless allowed.nil? || allowed.include?(@state)

        case what
        when "play" then begin_playing(**with)
        when "panic" then silence(**with)
        when "stop" then fall(STOP, :stop)
        when "fade" then fall(with.fetch(:seconds), :fade)
        when "jump" then @walk.jump(with.fetch(:section), at_next: with.fetch(:at_next, "bar"))
        when "around" then @walk.around = with.fetch(:on, true)
        when "stop.at" then @walk.stop(at_next: with.fetch(:at_next, "section"))
        when "take.back" then @state == :pausing ? end_pause : @walk.take_back
        end
      end

      # @return [String] why a command is not done now
      def refusal(what)
        return "No song loaded; load one first." if @state == :none
        return "#{@loaded.song.name} plays already." if what == "play"

        @state == :falling ? "#{@loaded.song.name} is being stopped." : "Nothing plays."
      end

      def begin_playing(section: nil, sample: nil)
        start(section: section, sample: sample || (section ? nil : @held))
      end

      def fall(seconds, why)
        return end_pause if @state == :pausing
        return unless playing?

        frames = (seconds * @rate).round
        return halt unless frames.positive?

        @gain.fall(frames, why)
        @state = :falling
      end

      def end_pause
        @begins = nil
        @state = :ready
      end

      # What was sent ahead is faded by its sender (Horizon); the deck continues in silence.
      def silence(ramp: true)
        @orders.clear
        fall(ramp ? PANIC : 0, :panic)
      end
    end
  end
end
