# frozen_string_literal: true

module Loomshuttle
  module Checks
    # A listener without any signal: no output, an output without source or socket or, where the desk levels are known, all faders and sends down.
    module HearsNothing
      class << self
        def findings(context)
          show = context.show
          show.listeners.values.reject { |listener| listener.ears.flatten.any? { |point| carries?(show, point) } }
            .map { |listener| finding(listener, "hears nothing: #{why(show, listener)}.") }
        end

        # @param survey [Hearing::Survey] with known levels
        # @return [Array<Finding>] without fixes
        def heard(survey, **)
          survey.listeners.each_with_index.filter_map do |listener, at|
            next unless listener.ears.flatten.any? { |point| carries?(survey.show, point) }
            next if survey.sources.each_index.any? { |source| survey.figure_at(source, at).heard }

            finding(listener, "hears nothing: all faders or sends feeding them are down.")
          end
        end

        private

        def carries?(show, point)
          item = point.output? ? show.outputs[point.number] : show.personal_lanes[point.number]
          item&.source && (!point.output? || show.sockets_of_output(point.number).any?)
        end

        def why(show, listener)
          points = listener.ears.flatten
          return "no output assigned" if points.empty?

          names = points.first(4).map { |point| Rig::Label.for(point).downcase }.join(" and ")
          return "#{names} are not in use" if points.size > 1

          fed = points.first.output? && show.outputs[points.first.number]&.source
          "#{names} #{fed ? 'is not connected' : 'has no source'}"
        end

        def finding(listener, words)
          Finding.new(id: "hears-nothing/#{listener.number}", check: "hears-nothing", severity: Finding::LOOK, sentence: "#{listener.title} #{words}",
                      path: listener.ears.flatten, at: [], fix: nil)
        end
      end
    end
  end
end
