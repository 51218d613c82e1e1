# frozen_string_literal: true

module Loomshuttle
  module Signal
    # Sources that outputs lose by an edit.
    module Unreached
      # Sources that are named of each output; more are counted.
      NAMED = 4

      # @param before [Checks::Context]   @param after [Checks::Context]
      # @return [Array<Broken::Loss>] by output socket or personal lane
      def self.between(before, after)
        had, has = [before, after].map { |context| sources(context) }
        had.filter_map do |outlet, names|
          gone = names.keys - has.fetch(outlet, {}).keys
          next if gone.empty?

          Broken::Loss.new(name: Rig::Label.for(outlet), channel: outlet.name, lost: words(gone.map { |point| names[point] }.uniq, has.fetch(outlet, {}).empty?))
        end
      end

      # @param graph [Graph]   @param start [Rig::Point]
      # @return [Hash{Rig::Point=>true}] the points that sound reaches now, without the recorder
      def self.reached(graph, start)
        seen, open = { start => true }, [start]
        while (at = open.pop)
          graph.from(at).each do |join|
            next if !join.live || join.kind == :file || seen[join.to]

            seen[join.to] = true
            open << join.to
          end
        end
        seen
      end

      class << self
        private

        # Sockets and personal lanes, and what each carries: the stage source of each channel in use, and each mix, by its name.
        def sources(context)
          show = context.show
          outlets = outlets(show)
          entries(context).each_with_object(Hash.new { |found, outlet| found[outlet] = {} }) do |(point, name), found|
            reached = reached(context.graph, point)
            outlets.each { |outlet| found[outlet][point] = name if reached[outlet] }
          end
        end

        def outlets(show)
          show.outputs.keys.flat_map { |number| show.sockets_of_output(number) }.uniq + show.personal_lanes.keys.map { |number| Rig::Point.desk("personal", number) }
        end

        # What hears nothing now loses nothing.
        def entries(context)
          show = context.show
          stage = show.channels.values.select { |channel| channel.used? && channel.hears && context.sockets[channel.hears] }.to_h { |channel| [channel.hears, channel.title] }
          mixes = show.profile.mix_points.select { |point| mixed?(context, point) }.to_h { |point| [point.at("post-fader"), show.label(point)] }
          stage.merge(mixes)
        end

        def mixed?(context, point) = (context.show.profile.mixing.output_taps | ["post-fader"]).any? { |tap| context.graph.into(point.at(tap)).any?(&:live) }

        def words(names, empty)
          more = names.size > NAMED ? ["#{names.size - NAMED} more"] : []
          ["#{names.first(NAMED).join(', ')}#{" and #{more.first}" if more.any?}#{', and carries nothing then' if empty}"]
        end
      end
    end
  end
end
