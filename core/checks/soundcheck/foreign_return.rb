# frozen_string_literal: true

module Loomshuttle
  module Checks
    # A take that returns on another channel than it was captured from would be mixed with the wrong settings.
    module ForeignReturn
      def self.findings(context)
        context.strands.select { |strand| foreign?(context.show, strand) && !shared?(context.show, strand) }.map { |strand| finding(context.show, strand) }
      end

      class << self
        private

        def foreign?(show, strand) = strand.channel&.channel? && !strand.home.empty? && (!strand.comes_home? || away(show, strand).any?)

        # Where it comes back besides; another channel of the same source hears it with good reason.
        def away(show, strand)
          stage = show.channel_at(strand.channel)&.stage
          others = strand.home - [strand.channel]
          strand.comes_home? ? others.reject { |base| stage && show.channel_at(base)&.stage == stage } : others
        end

        # Tracks that share a return on purpose come back where that one is heard.
        def shared?(show, strand)
          track = show.tracks[strand.track] or return false
          !track.shares.empty? && show.tracks.values.any? { |other| other != track && other.shares == track.shares && other.outputs.intersect?(track.outputs) }
        end

        def finding(show, strand)
          away = away(show, strand).map { |base| Rig::Label.for(base).downcase }
          sentence = "#{show.channel_at(strand.channel).title} is captured from #{Rig::Label.for(strand.channel).downcase}, " \
                     "but its take returns on #{away.join(' and ')}."
          Finding.new(id: "foreign-return/#{strand.id}", check: "foreign-return", severity: Finding::BLOCKS, sentence: sentence,
                      path: [strand.send_point, Rig::Point.track(strand.track, "out"), strand.return_point, *strand.home],
                      at: [strand.return_point], fix: fix(show, strand))
        end

        # A track's output follows what its channel hears on take; a channel that hears none takes the return.
        def fix(show, strand)
          channel = show.channel_at(strand.channel)
          track = show.tracks[strand.track]
          return hear(show, strand, channel) if channel.take.nil? || channel.take == strand.return_point

          lane = channel.take.number + show.profile.channel_points(channel.number).index(strand.channel)
          return pair(show, track, lane - strand.track_lane) if track.stereo

          outputs = track.outputs.dup
          outputs[strand.track_lane] = lane

          there = show.tracks.values.find { |one| one != track && one.outputs.include?(lane) }
          return swap(show, track, outputs, there, lane => strand.return) if there

          Settings::Edit.set("Play #{show.title_of(track)} to card return #{lane}", "track/#{track.number}/outputs" => outputs)
        end

        # Both sides of a stereo track at once, in order, where nobody else plays.
        def pair(show, track, first)
          taken = show.tracks.values.reject { |other| other == track }.flat_map(&:outputs)
          return unless first.odd? && first < show.profile.returns && !taken.intersect?([first, first + 1])

          Settings::Edit.set("Play #{show.title_of(track)} to card returns #{first} and #{first + 1}", "track/#{track.number}/outputs" => [first, first + 1])
        end

        # The track that plays to that return gets the return that becomes free.
        def swap(show, track, outputs, there, lanes)
          moved = there.outputs.map { |lane| lanes.fetch(lane, lane) }
          return if moved.uniq.size != moved.size

          Settings::Edit.set("Swap the returns of #{show.title_of(track)} and #{show.title_of(there)}",
                             "track/#{track.number}/outputs" => outputs, "track/#{there.number}/outputs" => moved)
        end

        def hear(show, strand, channel)
          return if show.profile.strip(channel.number).width > 1

          others = away(show, strand).to_h { |base| ["channel/#{show.channel_at(base).number}/take", nil] }
          Steps::Completed.edit(show, "Let #{channel.title} alone hear card return #{strand.return} on take",
                                others.merge("channel/#{channel.number}/take" => strand.return_point.name))
        end
      end
    end
  end
end
