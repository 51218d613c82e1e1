# frozen_string_literal: true

module Loomshuttle
  module Steps
    # Patches sockets, channels, sends, tracks and returns from an input list and the rig. What is right stays, and locked channels are never moved.
    # Where possible, channel n uses lane n, track n and return n, pairs use odd/even lanes, and sockets are used in order at the nearest box.
    class AutoPatch
      # A name for one line of the list with its settings, so that a proposal can be accepted in part.
      #   kind   "new"; "renamed" or "moved" (to another socket), of a channel that is in use; "changed" otherwise; "removed": in use, and not on the list;
      #          "left out": no channel is free for it
      #   note   what it was before, or nil
      Part = Value.define(:title, :kind, :note, :settings)

      # @param show [Settings::Show]
      # @param entries [Array<Formats::InputList::Entry>, nil] nil: the channels that already have names
      # @param only [Array<String>, nil] titles of the parts that come first where there is not room for all
      # @return [Array<Part>] a new order of the channels, then lines that fit and change something, in list order, then lines that do not fit and channels
      #   that the list no longer has
      def self.parts(show, entries = nil, only: nil)
        ordered, made = plan(show, entries, only)
        ordered + made.parts + (entries ? made.without_room + made.removed : [])
      end

      # @param only [Array<String>, nil] titles of the accepted parts; nil: all except removals
      # @return [Settings::Edit] with what moves along on a desk that patches in blocks. A part that would move a fixed channel
      #   is left out.
      def self.edit(show, entries = nil, only: nil)
        ordered, made = plan(show, entries, only)
        parts = ordered + made.parts
        parts = (parts + made.removed).select { |part| only.include?(part.title) } if only
        settings = together(show, parts.map(&:settings)) || parts.reduce({}) { |sum, part| together(show, [sum, part.settings]) || sum }
        Settings::Edit.set("Auto-patch #{parts.size} inputs", settings)
      end

      # @return [Hash, nil] settings of all parts together; nil if impossible, or if a fixed channel would move
      def self.together(show, list)
        settings = Completed.settings(show, list.reduce({}, :merge))
        show.channels.each_value do |channel|
          next unless channel.fixed

          %w[stage take].map { |field| "channel/#{channel.number}/#{field}" }.each { |path| return nil unless settings.fetch(path, show.get(path)) == show.get(path) }
        end
        settings
      rescue Invalid
        nil
      end
      private_class_method :together

      def self.entries_of(show)
        show.channels.values.reject { |channel| channel.name.empty? }.map do |channel|
          Formats::InputList::Entry.new(line: nil, channel: channel.number, name: channel.name, short: channel.short, socket: nil, mic: channel.mic,
                                        stand: channel.stand, phantom: channel.phantom, spot: channel.spot, colour: nil, gain: nil, notes: "", stereo: false)
        end
      end

      # @param numbers [Array<Integer>] channels
      # @return [Hash{String=>Object}] settings that give them a path to the recorder and back, as far as lanes are free
      def self.ways(show, numbers)
        edit(show, entries_of(show).select { |entry| numbers.include?(entry.channel) }).settings
      end

      # What a list asks for but cannot get because it is in use.
      # @param only [Array<String>, nil] as parts has it
      # @return [Array<Array(Formats::InputList::Entry, String, Symbol)>] entry, a sentence that says why, and a key of Formats::ListRemarks::KINDS
      def self.unmet(show, entries, only: nil)
        plan(show, entries, only).last.tap(&:parts).unmet
      end

      # @return [Array(Array<Part>, AutoPatch)] the new order of the channels, if there is one, and everything else on the channels in their order then
      def self.plan(show, entries, only)
        order = ChannelOrder.of(show, entries) if entries
        return [[], new(show, entries || entries_of(show), only)] unless order

        part = Part.new(title: ChannelOrder::TITLE, kind: "moved", note: order.note, settings: order.settings)
        [[part], new(only.nil? || only.include?(ChannelOrder::TITLE) ? order.show : show, entries, only)]
      end
      private_class_method :plan

      # @return [Array] as AutoPatch.unmet; call parts first
      def unmet
        @left_over.map { |entry| [entry, left_over(entry), :no_room] } + @notes + @sockets.unmet + EntryPairs.apart(@show, @pairs, @channels).map { |pair| [*pair, :apart] }
      end

      # @param only [Array<String>, nil] names of the lines that choose first
      def initialize(show, entries, only = nil)
        @show = show
        entries = EntrySides.of(show, entries)
        first, last = only ? entries.partition { |entry| only.include?(entry.name) } : [entries, []]
        choice = EntryChannels.new(show, first + last)
        @channels, @moved = choice.choose, choice.moved
        @entries, @left_over = entries.partition { |entry| @channels.key?(entry) }
        @pairs = EntryPairs.of(@entries)
        @sockets = EntrySockets.new(show, @channels)
        @free = @sockets.free
        @notes = []
        @turn = EntryPairs.in_turn((first + last) & @entries, @pairs)
      end

      def parts
        made = @turn.to_h { |entry| [entry, part(entry, @channels[entry])] }
        @entries.filter_map { |entry| made[entry] }
      end

      # @return [Array<Part>] lines for which no channel is free
      def without_room
        @left_over.map { |entry| Part.new(title: entry.name, kind: "left out", note: ["line #{entry.line}", no_channel].join(", "), settings: {}) }
      end

      # @return [Array<Part>] channels in use that no line of the list refers to
      def removed
        gone = @show.channels.values.reject { |channel| channel.name.empty? || @channels.value?(channel.number) }
        gone.map { |channel| Part.new(title: channel.name, kind: "removed", note: "channel #{channel.number}", settings: RemovedInput.settings(@show, channel)) }
      end

      private

      def part(entry, number)
        @notes << [entry, elsewhere(entry, number), :taken] unless [nil, number].include?(entry.channel)
        settings = plan(entry, number, side(entry, number)).reject { |path, value| @show.get(path) == value }
        Part.new(title: entry.name, **told(@show.channels[number], settings), settings: settings) unless settings.empty?
      end

      # @return [Hash] :kind and :note of a part
      def told(channel, settings)
        name, stage = settings.values_at("channel/#{channel.number}/name", "channel/#{channel.number}/stage")
        return { kind: "new", note: "channel #{channel.number}" } if channel.name.empty?
        return { kind: "renamed", note: "channel #{channel.number}, was #{channel.name}" } if name
        return { kind: "changed", note: "channel #{channel.number}" } unless stage && channel.stage

        { kind: "moved", note: "channel #{channel.number}, was at #{@sockets.label(channel.stage)}" }
      end

      def plan(entry, number, side)
        channel = @show.channels[number]
        return describe(entry, number, channel.stage) if channel.fixed

        stage = @sockets.socket(entry, @pairs[entry])
        describe(entry, number, stage).merge(stage ? { "channel/#{number}/stage" => stage.name } : {}, paired(number, side), ways(number, side, by_card: stage&.card?))
      end

      def describe(entry, number, stage)
        preamp, set = @show.profile.strip(number).preamp, @sockets.preamp(entry, stage)
        words = { "name" => entry.name, "short" => entry.short, "mic" => entry.mic, "stand" => entry.stand, "spot" => entry.spot, "colour" => entry.colour, "notes" => entry.notes,
                  "gain" => set[:gain] && gain(entry, set[:gain], preamp), "phantom" => set[:phantom] }
        words.reject { |_, value| value.nil? || value == "" }.transform_keys { |field| "channel/#{number}/#{field}" }
      end

      # In the preamp's range and steps.
      def gain(entry, wanted, preamp)
        kept = (wanted / preamp.step_db * preamp.step_db).clamp(preamp.min_db, preamp.max_db)
        @notes << [entry, "#{entry.name} gets #{Text.decibels(kept)}, not #{Text.decibels(wanted)}: the preamp goes no further", :value] unless kept == wanted
        kept
      end

      # @return [:left, :right, nil] which side of a pair of mono channels a line is
      def side(entry, number)
        return unless @show.profile.strip(number).width == 1

        return (:left if number.odd? && @channels[@pairs[entry]] == number + 1) if @pairs.key?(entry)

        left = @pairs.key(entry)
        :right if left && number.even? && @channels[left] == number - 1
      end

      def paired(number, side) = side == :left ? { "channel/#{number}/paired" => true } : {}

      # The way to the recorder and back. A channel that has one keeps it.
      def ways(number, side, by_card:)
        return {} if @free.captured?(number)

        points = @show.profile.channel_points(number)
        side = :stereo if points.size == 2
        lane = @free.lane(number, side) or return {}
        settings = sends(points, lane, by_card)
        track = @free.track(lane, side) or return settings
        settings.merge!(track_settings(track, lane, side, number, by_card)) unless side == :right
        settings["channel/#{number}/take"] = Rig::Point.card_return(lane).name if !by_card && (side == :stereo ? all_home?(number, lane, side) : home?(number, lane))
        settings
      end

      def sends(points, lane, by_card)
        points.each_with_index.reduce({}) do |all, (point, at)|
          all.merge("send/#{lane + at}/source" => point.name, "send/#{lane + at}/tap" => by_card ? "channel-in" : nil)
        end
      end

      def left_over(entry) = "#{entry.name} is left out: #{no_channel}"
      def no_channel = "none of the #{@show.channels.size} channels of the #{@show.profile.name} is free"

      def elsewhere(entry, number)
        why = @moved.include?(entry) ? "a pair is an odd channel and the next one" : "that one is taken, or it has one already"
        "#{entry.name} gets channel #{number}, not channel #{entry.channel}: #{why}"
      end

      def track_settings(track, lane, side, number, by_card)
        lanes = side ? [lane, lane + 1] : [lane]
        outputs = !by_card && all_home?(number, lane, side) ? lanes : []
        { "stereo" => !side.nil?, "inputs" => lanes, "outputs" => outputs, "armed" => true }.transform_keys { |field| "track/#{track}/#{field}" }
      end

      # Whether all lanes of a track can.
      def all_home?(number, lane, side)
        case side
        when :left then home?(number, lane) && home?(number + 1, lane + 1)
        when :stereo then home?(number, lane) && @free.return?(lane + 1, number)
        else home?(number, lane)
        end
      end

      # Whether a lane can lead back to the channel, and to it alone. Where take sources run in blocks, only the lane at the
      # channel's own place can, and a block that hears something keeps it.
      def home?(number, lane)
        size = @show.profile.take_block
        take = @show.channels[number].take
        @free.return?(lane, number) && ((lane - number) % size).zero? && (size == 1 || take.nil? || take.number == lane)
      end
    end
  end
end
