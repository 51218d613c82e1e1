# frozen_string_literal: true

module Loomshuttle
  module Views
    # The choices for one cell of the strand sheet, each with the settings that it sets. Screens offer them and post them back, so screens never
    # decide what fits.
    class Choices
      # missing: why it cannot be chosen, or nil; marks: what else it is called by, as on the strand sheet ("A 9", "In 5", "12")
      Choice = Value.define(:label, :settings, :current, :missing, :marks)

      # column => method; the number is a stage source's place in the layout, a channel, a card lane, a track, an output, an
      # outlet block's place in the profile, or nothing (1)
      COLUMNS = {
        "socket_feeds" => :socket_feeds, "hears_on_stage" => :hears_on_stage, "send" => :sources, "tap" => :taps,
        "track_input" => :track_inputs, "track_output" => :track_outputs, "return_feeds" => :return_feeds,
        "hears_on_take" => :hears_on_take, "output_source" => :output_sources, "output_expected" => :output_sockets, "outlet" => :outlet_starts,
        "own_mix" => :own_mix
      }.freeze

      # @param show [Settings::Show]
      # @param column [String] a key of COLUMNS
      # @param number [Integer]
      # @return [Array<Choice>] the first one empties the cell, if possible
      # @raise [Invalid] if there is no such cell
      def self.for(show, column, number)
        list = COLUMNS[column] or raise Invalid.new("There are no choices for \"#{column}\".", where: "column")
        new(show).send(list, number).map do |label, settings, missing, marks|
          Choice.new(label: label, settings: settings, current: settings.all? { |path, value| show.get(path) == value }, missing: missing, marks: marks || numbers(label))
        end
      end

      # Lanes, channels and outputs can also be found by their number.
      def self.numbers(label) = [label[/\A[A-Za-z ]+ (\d+)\z/, 1] || label[/\AChannel (\d+)\b/, 1]].compact
      private_class_method :numbers

      def initialize(show)
        @show = show
        @profile = show.profile
        @returns = @profile.return_points
      end

      private

      def socket_feeds(number)
        source = @show.layout.sources[number - 1] if number.positive?
        source or raise Invalid.new("There is no socket #{number}.", where: "number")
        feeds("stage", source.point, @profile.stage_points)
      end

      def return_feeds(number)
        point = @returns[number - 1] or raise Invalid.new("There is no card return #{number}.", where: "number")
        feeds("take", point, @returns)
      end

      # Channels that can hear a point; choosing none takes it from all that do.
      def feeds(field, point, points)
        hearing = @show.channels.values.select { |channel| channel[field] == point }
        none = hearing.to_h { |channel| ["channel/#{channel.number}/#{field}", nil] }
        fitting = @show.channels.values.select { |channel| starts(channel.number, points).include?(point) }
        [["None", none]].reject { none.empty? } +
          fitting.map { |channel| [channel_label(channel), { "channel/#{channel.number}/#{field}" => point.name }] }
      end

      # What is there first; behind it what the patch could name, with why it is missing.
      def hears_on_stage(number)
        path = "channel/#{number}/stage"
        @show.get(path)
        there, missing = starts(number, @show.layout.sources.map(&:point)).map { |point| @show.layout.source(point) }.partition { |source| source.missing.nil? }
        nothing(path) + (there + missing).map { |source| [@show.layout.words(source.point), { path => source.point.name }, source.missing, marks(source)] }
      end

      # A number alone is a socket of the desk before one of a box.
      def marks(source)
        own = source.point.device == "desk"
        [source.mark, Rig::Label.short(source.point), (source.point.number.to_s if own)].compact.map(&:strip).uniq
      end

      def hears_on_take(number) = points("channel/#{number}/take", number, @returns)

      def points(path, number, known)
        @show.get(path)
        nothing(path) + starts(number, known).map { |point| [Rig::Label.for(point), { path => point.name }] }
      end

      # A stereo channel starts on odd lanes that have a neighbour; take sources that run in blocks keep their place in one.
      def starts(number, points)
        return in_step(number, points) if points.equal?(@returns) && @profile.take_block > 1
        return points if @profile.strip(number).width == 1

        known = points.to_h { |point| [point, true] }
        points.select { |point| point.number.odd? && known[point.beside(1)] }
      end

      def in_step(number, points) = points.select { |point| ((point.number - number) % @profile.take_block).zero? }

      def sources(lane)
        nothing("send/#{lane}/source") + @profile.sendable_points.map do |base|
          [@show.label(base), { "send/#{lane}/source" => base.name, **fitting_tap(lane, base) }]
        end
      end

      def channel_label(channel) = "Channel #{channel.number} #{channel.name}".strip

      # A tap of its own that the source does not have gives way to the show's default.
      def fitting_tap(lane, base)
        tap = @show.get("send/#{lane}/tap")
        tap && !@profile.taps_of(base).include?(tap) ? { "send/#{lane}/tap" => nil } : {}
      end

      def taps(lane)
        @show.get("send/#{lane}/source")
        source = @show.sends[lane].source
        fitting = source ? @profile.taps_of(source) : @profile.taps
        plain = @show.tap_of(@show.sends[lane].with(tap: nil))
        [["As the show: #{Rig::Label::TAPS.fetch(plain)}", { "send/#{lane}/tap" => nil }]] +
          fitting.map { |tap| [Rig::Label::TAPS.fetch(tap), { "send/#{lane}/tap" => tap }] }
      end

      def track_inputs(number) = lanes("track/#{number}/inputs", number, @profile.sends, "Card send")
      def track_outputs(number) = lanes("track/#{number}/outputs", number, @profile.returns, "Card return")

      def lanes(path, number, count, words)
        @show.get(path)
        width = @show.tracks[number].width
        starts = width == 1 ? (1..count) : (1...count).step(2)
        [["None", { path => [] }]] + starts.map do |lane|
          taken = (lane...(lane + width)).to_a
          ["#{words} #{taken.join(' and ')}", { path => taken }]
        end
      end

      def output_sources(number)
        path = "output/#{number}/source"
        @show.get(path)
        nothing(path) + @profile.output_points.map { |base| [@show.label(base), { path => base.name }] }
      end

      # Every socket that something can come out of.
      def output_sockets(number)
        path = "output/#{number}/expected"
        @show.get(path)
        points = @profile.outlet_blocks.values.flatten.flat_map { |point| @show.layout.sockets_of_outlet(point) }.uniq
        nothing(path) + points.map { |point| [Rig::Label.for(point), { path => point.name }] }
      end

      def outlet_starts(number)
        block = @profile.outlet_blocks.keys[number - 1] if number.positive?
        raise Invalid.new("There is no outlet block #{number}.", where: "number") unless block

        size = @profile.outlet_blocks.fetch(block).size
        nothing("outlet/#{block}/first") + (1..@profile.mix_outputs).step(size).map do |first|
          [size == 1 ? "Output #{first}" : "Outputs #{first} to #{[first + size - 1, @profile.mix_outputs].min}", { "outlet/#{block}/first" => first }]
        end
      end

      def own_mix(_number)
        [["None", { "setup/own_mix" => [] }]] + (1...@profile.returns).step(2).map { |lane| ["Card returns #{lane} and #{lane + 1}", { "setup/own_mix" => [lane, lane + 1] }] }
      end

      def nothing(path) = [["None", { path => nil }]]
    end
  end
end
