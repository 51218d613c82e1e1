# frozen_string_literal: true

module Loomshuttle
  module Steps
    # Finds what would meet a requirement: an edit of the plan if it is a matter of routing, or levels to set on the desk.
    class Mend
      OFF = Signal::MixedLevels::OFF
      # What is opened in somebody's ears is opened softly; a mix as a whole stands at 0 dB (common practice, no published source).
      SOFTLY = -20
      # Ways add up, so a level is found step by step.
      TRIES = 20

      # @param survey [Hearing::Survey]   @param result [Hearing::Wishes::Result] of a broken wish
      # @return [Settings::Edit, Hearing::Press, nil] nil if there is no simple fix
      def self.of(survey, result) = new(survey, result.source, result.listener).of(result.wish, result.figure.heard)

      # @param source [String]   @param listener [Integer]
      # @return [Settings::Edit, Hearing::Press, nil] closes the loudest path; nil if it cannot be closed for this source alone
      def self.stop(survey, source, listener) = new(survey, source, listener).stop

      def initialize(survey, source, listener)
        @survey, @source, @listener = survey, source, listener
        @show = survey.show
        @mix = Signal::Mix.new(@show)
        @names = Signal::LevelSlots.of(@show.profile).names
      end

      # @param wish [Settings::Wish]   @param db [Float, nil] present level in dB; nil for silence
      def of(wish, db)
        case wish.kind
        when "never" then stop
        when "most" then turn(wish.db)
        when "least" then db ? turn(wish.db) : let_in(wish.db)
        else let_in(nil)
        end
      end

      # Finds the first place on the path where this source alone can be closed.
      def stop
        @survey.loudest(@source, @listener).each do |join|
          found = case level(join)
                  in [:send, base, bus] then keep_out(base, @mix.leader(bus))
                  in [:pan, base, _] then edit("Remove #{title(base)} from main", "channel/#{base.number}/main" => false)
                  else direct(join)
                  end
          return found if found
        end
        nil
      end

      private

      def level(join) = join.level && @names[join.level]
      def title(base) = @show.channel_at(base).title
      def edit(label, settings) = Completed.edit(@show, label, settings)

      def keep_out(base, bus)
        number, name = base.number, @show.label(Rig::Point.desk("bus", bus))
        return edit("Remove #{title(base)} from subgroup #{name}", "channel/#{number}/groups" => @show.channels[number].groups - [bus]) if @mix.group?(bus)

        Hearing::Press.new(label: "Close #{title(base)}'s send to #{name} at the desk", values: { "channel/#{number}/send/#{bus}" => OFF })
      end

      # A channel or a card return straight to an output.
      def direct(join)
        return unless join.kind == :patch && join.to.device == "desk" && (join.from.card? || join.from.channel?) && %w[output personal].include?(join.to.kind)

        edit("Clear #{Rig::Label.for(join.to).downcase}", "#{join.to.kind}/#{join.to.number}/source" => nil)
      end

      # Turns the level that is this source's own until it is heard as loud as is wanted.
      def turn(wanted, values = @survey.values)
        name = own_level(@survey.turned(values)) or return
        before = values[name] or return
        level = before
        TRIES.times do
          db = @survey.turned(values.merge(name => level)).figure(@source, @listener).db or return
          break if (db - wanted).abs < 0.05

          level = (level + wanted - db).clamp(OFF + 1, Hearing::Press::RANGE.max).round(2)
        end
        pressed(values.merge(name => level), wanted) { "#{level > before ? 'Raise' : 'Lower'} it by #{Hearing::Level.words((level - before).abs)} at the desk" }
      end

      # A send where there is one, or else the fader.
      def own_level(survey)
        names = survey.loudest(@source, @listener).filter_map { |join| level(join) }
        own = names.find { |name| name.first == :send && !@mix.group?(name.last) } || names.find { |name| name.first == :fader }
        own && Hearing::SlotWords.value(own, @mix)
      end

      # Opens what is closed on the way that needs least opened.
      def let_in(wanted)
        closed = closed_on_way or return
        values = closed.reduce(@survey.values) { |all, name| all.merge(opening(name)) }
        db = @survey.turned(values).figure(@source, @listener).db or return
        return turn(wanted, values) if wanted && (db - wanted).abs >= 0.05

        pressed(values, wanted) { "Open the path on the desk" }
      end

      # @return [Hearing::Press, nil] nil where it would not do, or there is nothing to press
      def pressed(values, wanted)
        changed = values.reject { |name, value| @survey.values[name] == value }
        db = @survey.turned(values).figure(@source, @listener).db
        return if changed.empty? || db.nil? || (wanted && (db - wanted).abs > 0.1)

        Hearing::Press.new(label: yield, values: changed)
      end

      # What a silent level needs, to be open.
      def opening(name)
        case name
        in [:mute, number] then { "channel/#{number}/mute" => false }
        in [:fader, number] then master("channel/#{number}", SOFTLY)
        in [:send, *] | [:matrix, *] then { Hearing::SlotWords.value(name, @mix) => SOFTLY }
        in [:master, base] then master(Hearing::SlotWords.master(base, @mix), 0)
        in [:output, number] then { "output/#{number}/mute" => false }
        end
      end

      def master(at, level) = { "#{at}/mute" => false }.merge(@survey.values["#{at}/fader"].to_f <= OFF ? { "#{at}/fader" => level } : {})

      # The way from what the listener hears back to the source that has the fewest closed levels: a search in which an open join costs
      # nothing. Pans are nobody's to open.
      # @return [Array<Array>, nil] names of closed levels; nil where there is no way at all
      def closed_on_way
        ways, open, done = @survey.board.ways, starts, {}
        goals = @survey.source(@source).source.entries.map { |entry| ways.places[entry.point] }
        until open.empty?
          place, closed = open.shift
          next if done[place]
          return closed if goals.include?(place)

          done[place] = true
          nearer, further = steps(ways.inflows[place], closed).partition { |_, names| names.size == closed.size }
          open = nearer + open + further
        end
      end

      def starts = @survey.listener(@listener).ears.flatten.filter_map { |point| @survey.board.ways.places[point] }.uniq.map { |place| [place, []] }

      def steps(inflow, closed)
        return [] unless inflow

        inflow.from.zip(inflow.joins).filter_map do |from, join|
          gain = @survey.levels.gain_db(join)
          next [from, closed] if gain&.finite?

          name = level(join)
          [from, closed + [name]] unless name.nil? || %i[pan bus_pan preamp].include?(name.first)
        end
      end
    end
  end
end
