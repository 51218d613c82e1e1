# frozen_string_literal: true

module Loomshuttle
  module Checks
    # Roles on outputs without a destination: no interface, too few outputs at this rate, no cable, or too few card returns. Also two outputs cabled
    # to one socket.
    module PlaybackOutput
      class << self
        def findings(context)
          show = context.show
          outputs = show.roles.values.flat_map(&:outputs).uniq.sort
          return [] if outputs.empty?

          return by_card(context, outputs) if show.playback.returns.any?

          interface(show, outputs) + twice(show)
        end

        private

        def finding(id, sentence, severity: Finding::BLOCKS, path: [], fix: nil)
          Finding.new(id: "playback-output/#{id}", check: "playback-output", severity: severity, sentence: sentence, path: path, at: [], fix: fix)
        end

        def by_card(context, outputs)
          show = context.show
          there, too_many = outputs.partition { |output| show.playback_goes_to(output) }
          beyond(show.playback_returns.size, too_many) + there.reject { |output| heard?(context, output) || machine_only?(show, output) }.map { |output| unheard(show, output) }
        end

        def heard?(context, output) = context.graph.from(context.show.playback_goes_to(output)).any?(&:live)

        def unheard(show, output)
          point = show.playback_goes_to(output)
          finding("return/#{output}", "Playback output #{output} (#{show.roles_on(output).map(&:title).join(', ')}) uses card return #{point.number}, which no channel has " \
                                      "as stage source. Assign one in Patch.", path: [Rig::Point.playback(output), point])
        end

        def beyond(most, too_many)
          return [] if too_many.empty?

          [finding("card", "Playback has #{most} card returns, so there is no signal at #{list(too_many)}. " \
                           "Give it another stream of the card in Playback, or play to fewer outputs.")]
        end

        def interface(show, outputs)
          id = show.rig.interface or return [finding("none", "Songs are played to a playback interface, and the rig has none.")]
          interface = show.catalog.fetch("interface", id)
          most = interface.modes.select { |mode| mode.rate == show.rate }.map(&:outputs).max.to_i
          too_many = outputs.select { |output| output > most }
          found = too_many.empty? ? [] : [finding("mode", mode_words(show, interface, most, too_many), fix: mode_fix(show, interface, outputs))]
          found + (outputs - too_many).reject { |output| show.cables[output].to || machine_only?(show, output) }.map { |output| uncabled(show, output) }
        end

        def mode_words(show, interface, most, outputs)
          better = interface.modes.select { |mode| mode.outputs >= outputs.max }.map { |mode| "#{mode.outputs} at #{kilohertz(mode.rate)} with #{mode.bits} bits" }
          "The #{interface.name} has #{most} outputs at #{kilohertz(show.rate)}, so there is no signal at #{list(outputs)}. " \
            "#{better.empty? ? "It has #{interface.outputs} in all." : "It has #{better.uniq.join(', or ')}."}"
        end

        # Another interface that can do it at this rate.
        def mode_fix(show, interface, outputs)
          able = ->(one) { one.modes.any? { |mode| mode.rate == show.rate && mode.outputs >= outputs.max } }
          other = show.catalog.all.find { |one| one.kind == "interface" && one.id != interface.id && able.call(one) }
          other && Settings::Edit.set("Play through the #{other.name}", "rig/interface" => other.id)
        end

        # What the changeover hears needs no cable.
        def machine_only?(show, output) = show.roles_on(output).all? { |role| role.kind == "pilot" }

        def uncabled(show, output)
          finding("cable/#{output}", "Playback output #{output} (#{show.roles_on(output).map(&:title).join(', ')}) is not cabled to a socket.", path: [Rig::Point.playback(output)])
        end

        def twice(show)
          show.cables.values.select(&:to).group_by(&:to).select { |_, cables| cables.size > 1 }.map do |socket, cables|
            finding("socket/#{socket.dotted}", "Playback outputs #{list(cables.map(&:output))} are cabled to one socket, #{Rig::Label.for(socket)}.", path: [socket])
          end
        end

        def list(numbers) = numbers.size > 1 ? "#{numbers[0..-2].join(', ')} and #{numbers.last}" : numbers.first.to_s
        def kilohertz(rate) = "#{(rate / 1000.0).to_s.delete_suffix('.0')} kHz"
      end
    end
  end
end
