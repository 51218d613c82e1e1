# frozen_string_literal: true

module Loomshuttle
  module Checks
    # A stereo pair whose sides differ: only one has a source or a take source, is on main, in a subgroup, inverted, on take or dyed. The fix treats both
    # sides alike.
    module PairApart
      WORDS = { main: "is on main", polarity: "is inverted", groups: "is in other subgroups", send_taps: "has other send taps", position: "is on stage",
                colour: "has another dye" }.freeze

      class << self
        def findings(context)
          show = context.show
          show.channels.values.select(&:paired).flat_map { |left| of(show, left, show.channels[left.number + 1]) }
        end

        private

        def of(show, left, right)
          one_sided = %i[stage take].filter_map { |side| one_sided(show, left, right, side) if left[side].nil? != right[side].nil? }
          one_sided + WORDS.keys.reject { |field| left[field] == right[field] }.map { |field| differs(show, left, right, field) }
        end

        def one_sided(show, left, right, side)
          has, lacks = left[side] ? [left, right] : [right, left]
          words = side == :take ? "#{has.title} hears a card return on take and #{lacks.title} none" : "#{has.title} has a source and #{lacks.title} none"
          finding(left, right, side, "#{words}, but they are a stereo pair.", side == :take ? next_return(show, has, lacks) : next_socket(show, has, lacks))
        end

        # The lane beside, where nobody hears it yet.
        def next_return(show, has, lacks)
          point = has.take.beside(lacks.number - has.number)
          return if point.nil? || !show.profile.return_points.include?(point) || show.returns_heard.include?(point.number)

          Steps::Completed.edit(show, "Set the take source of #{lacks.title} to card return #{point.number}", "channel/#{lacks.number}/take" => point.name)
        end

        # The socket beside at the same box, where nobody hears it yet.
        def next_socket(show, has, lacks)
          point = has.stage.beside(lacks.number - has.number)
          source = point && show.layout.source(point)
          return if source.nil? || source.missing || show.channels.values.any? { |channel| channel.stage == point }

          socket = show.layout.socket_of(point)
          return unless socket == show.layout.socket_of(has.stage)&.beside(lacks.number - has.number)

          Steps::Completed.edit(show, "Set the stage source of #{lacks.title} to #{Rig::Label.for(socket)}", "channel/#{lacks.number}/stage" => point.name)
        end

        # For both as it is where there is more of it: nothing that is heard goes.
        def differs(show, left, right, field)
          more = [left, right].max_by { |one| amount(one[field]) }
          less = more == left ? right : left
          words = %i[main polarity position].include?(field) ? "#{more.title} #{WORDS[field]} and #{less.title} is not" : "#{more.title} #{WORDS[field]} than #{less.title}"
          setting = Settings.find("channel/#{more.number}/#{field}").last
          finding(left, right, field, "#{words}, but they are a stereo pair.",
                  Steps::Completed.edit(show, "#{less.title}: #{setting.words} as #{more.title}", "channel/#{less.number}/#{field}" => setting.plain(more)))
        end

        # A dye is more than none, and stage more than take.
        def amount(value)
          case value
          when String then %w[iron take].include?(value) ? 0 : 1
          when true, false then value ? 1 : 0
          else value.size
          end
        end

        def finding(left, right, field, sentence, fix)
          Finding.new(id: "pair-apart/#{left.number}/#{field}", check: "pair-apart", severity: Finding::LOOK, sentence: sentence, path: [left.point, right.point],
                      at: [left.point, right.point], fix: fix)
        end
      end
    end
  end
end
