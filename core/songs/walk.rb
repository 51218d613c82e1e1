# frozen_string_literal: true

module Loomshuttle
  module Songs
    # The path through a song while it plays: which of its samples sound when, with jumps on the grid and repeated sections. It knows no audio. A
    # jump is a short crossfade that ends at its target, so that whatever begins there is complete.
    #
    #   walk = Walk.new(song)
    #   walk.take(480)                   # [Span(at: 0, from: 0, frames: 480, first: 1, last: 1)]
    #   walk.jump(4, at_next: "bar")     # Asked(kind: "jump", edge: 96_000, …): leaves at sample 96,000 for section 4
    #   walk.take(480)                   # goes on; the block at the edge holds two spans that crossfade
    class Walk
      # Samples of the song from `from` on, heard from frame `at` of a block on, with a gain that goes evenly from `first` to `last`.
      Span = Value.define(:at, :from, :frames, :first, :last) do
        # Whether it is played without fades.
        def whole? = first >= 1 && last >= 1
      end
      # What was asked and is not done yet: "jump" (to a place) or "stop"; edge: sample of the song where it is left
      Asked = Value.define(:kind, :edge, :place)
      # Where to go on: a pass by its number, and a sample in it.
      Place = Value.define(:pass, :sample)
      # A crossfade under way; old or new is nil for silence.
      Turn = Value.define(:old, :new, :frames, :place)
      # Length of a crossfade (seconds).
      FADE = 0.008
      AT_NEXT = %w[beat bar section].freeze

      attr_reader :song, :passes, :position, :asked

      # @param song [Song]   @param tonight [Tonight]
      # @param section [Integer, nil] key of the section to start with   @param sample [Integer, nil] or the sample of the song
      # @raise [Invalid]
      def initialize(song, tonight = Tonight.plain, section: nil, sample: nil)
        @song = song
        @passes = Pass.all(song, tonight)
        @fade = (FADE * song.rate).round
        @around = @again = @over = false
        @rounds, @done = 1, 0
        begin_at(start_place(section, sample))
      end

      # @return [Pass] the current one, or the last
      def pass = @passes[@pass]

      # @return [Boolean] whether the section goes around until it is left
      attr_reader :around
      # @return [Integer] how often this pass has been begun, going around
      attr_reader :rounds

      def over? = @over

      # @return [Boolean] whether it ended, or will end, because somebody asked for a stop
      def stopped? = @stopped == true

      # @return [Integer] frames of the block that was taken last; fewer than were asked for at the end
      attr_reader :taken

      # @return [Place, nil] what follows this section as things stand; nil at the end
      def after = way_on.last

      # @param frames [Integer]
      # @return [Array<Span>] what to play in the next block; empty after the end
      def take(frames)
        spans, at = [], 0
        at += @turn ? turn(spans, at, frames - at) : run(spans, at, frames - at) while at < frames && !@over
        @taken = at
        run(spans, at, 0) if !@turn && @position == song.frames # so that the end is known with its last sample
        spans
      end

      # @return [Integer] frames until the end, if nobody asks for anything more
      def left
        here = @turn ? @turn.place : Place.new(pass: @pass, sample: @position)
        return 0 if @over || here.nil?

        (@turn ? @turn.frames - @done : 0) + (@passes[here.pass].to - here.sample) + @passes.drop(here.pass + 1).sum(&:frames)
      end

      # @param key [Integer] of a section   @param at_next [String] of AT_NEXT
      # @return [Asked]
      # @raise [Invalid] if the section is skipped tonight
      def jump(key, at_next: "bar")
        place = place_of(key) or raise Invalid.new("#{song.section(key)&.name || 'That section'} is not played tonight.", where: "section")
        ask("jump", at_next, place)
      end

      # Asks for a stop at the end of the section, or sooner (AT_NEXT).
      def stop(at_next: "section") = ask("stop", at_next, nil)

      # @param wanted [Boolean]
      def around=(wanted)
        @around = wanted
        @rounds = 1 unless wanted
      end

      # Cancels a jump or stop that was asked for and has not happened yet.
      # @return [Boolean] whether there was anything
      def take_back
        had = !@asked.nil? || @around
        @asked, @around = nil, false
        had
      end

      private

      def start_place(section, sample)
        return Place.new(pass: 0, sample: @passes.first.from) unless section || sample

        place = section ? place_of(section, from: -1) : place_at(sample)
        place || raise(Invalid.new("That part of #{song.name} is not played tonight.", where: section ? "section" : "sample"))
      end

      def place_at(sample)
        at = @passes.index { |one| sample >= one.from && sample < one.to }
        at && Place.new(pass: at, sample: sample)
      end

      # The next pass of a section behind this one, or else the first.
      def place_of(key, from: @pass)
        found = @passes.each_index.select { |at| @passes[at].section.key == key }
        at = found.find { |one| one > from } || found.first
        at && Place.new(pass: at, sample: @passes[at].from)
      end

      # In the middle of a song from silence, so that it lands whole.
      def begin_at(place)
        @pass, @position = place.pass, place.sample
        return if place.sample == song.lead

        @turn = Turn.new(old: nil, new: place.sample - @fade, frames: @fade, place: place)
      end

      def ask(kind, at_next, place)
        raise Invalid.new("It goes on at the next #{AT_NEXT.join(', ')}, not at #{Text.readable(at_next, most: 40)}.", where: "at_next") unless AT_NEXT.include?(at_next)

        here = @turn&.place || Place.new(pass: @pass, sample: @position)
        pass = @passes[here.pass]
        edge = at_next == "section" ? pass.to : Grid.next(song, [here.sample + @fade, pass.to].min, at_next)
        @asked = Asked.new(kind: kind, edge: [edge, pass.to].min, place: place)
      end

      # @return [Array(Integer, Place)] sample where this pass is left, and where it goes on; nil: nowhere
      def way_on
        return [@asked.edge, @asked.place] if @asked
        return [pass.to, Place.new(pass: @pass, sample: pass.from)] if @around

        following = @passes[@pass + 1]
        [pass.to, following && Place.new(pass: @pass + 1, sample: following.from)]
      end

      # @return [Integer] frames that it came further
      def run(spans, at, most)
        edge, place = way_on
        smooth = place ? place.sample == edge : edge == song.frames
        size = [most, (smooth ? edge : edge - @fade) - @position].min
        return go_on(spans, at, size) if size.positive?

        depart
        smooth || edge <= @position ? arrive(place) : leave(edge - @position, place)
        0
      end

      def go_on(spans, at, size)
        spans << Span.new(at: at, from: @position, frames: size, first: 1.0, last: 1.0)
        @position += size
        size
      end

      # What was asked is done from here on, and nothing takes it back.
      def depart
        @again = @asked.nil? && @around
        @around = false if @asked
        @stopped = @asked&.kind == "stop"
        @asked = nil
      end

      def leave(frames, place)
        @turn = Turn.new(old: @position, new: place && (place.sample - frames), frames: frames, place: place)
        @done = 0
      end

      def turn(spans, at, most)
        size = [most, @turn.frames - @done].min
        before, behind = @done.fdiv(@turn.frames), (@done + size).fdiv(@turn.frames)
        spans << Span.new(at: at, from: @turn.old + @done, frames: size, first: 1 - before, last: 1 - behind) if @turn.old
        spans << Span.new(at: at, from: @turn.new + @done, frames: size, first: before, last: behind) if @turn.new
        @done += size
        @position = @turn.new + @done if @turn.new
        arrive(@turn.place) if @done == @turn.frames
        size
      end

      def arrive(place)
        @turn, @done = nil, 0
        return @over = true unless place

        @rounds = @again ? @rounds + 1 : 1
        @pass, @position = place.pass, place.sample
      end
    end
  end
end
