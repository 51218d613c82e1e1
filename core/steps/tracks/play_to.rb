# frozen_string_literal: true

module Loomshuttle
  module Steps
    # Assigns the card returns of a range of tracks: in order, or all to one on purpose.
    module PlayTo
      class << self
        # @param show [Settings::Show]   @param numbers [Array<Integer>] tracks   @param first [Integer] first card return
        # @param shared [Boolean] whether all tracks play to the same return (a stereo track also to the next)
        # @return [Settings::Edit]
        # @raise [Invalid] if there is no such track, or too few returns
        def edit(show, numbers, first:, shared: false)
          tracks = numbers.map { |number| show.tracks[number] || raise(Invalid.new("There is no track #{number}.", where: "tracks")) }
          raise Invalid.new("Name at least one track.", where: "tracks") if tracks.empty?

          settings = shared ? together(show, tracks, first) : in_order(tracks, first)
          last = settings.values.grep(Array).flatten.max
          raise Invalid.new("#{show.profile.name} has #{show.profile.returns} card returns, and #{last} would be needed.", where: "first") if last > show.profile.returns

          Settings::Edit.set(shared ? "Let #{tracks.size} tracks share card return #{first}" : "Play #{tracks.size} tracks to card returns from #{first} on", settings)
        end

        # @param track [Settings::Track]
        # @return [String] note for tracks that share a return with this one on purpose
        def shared_as(show, track) = "with #{show.title_of(track)}"[0, Settings::NAME]

        private

        def together(show, tracks, first)
          name = shared_as(show, tracks.first)
          tracks.reduce({}) do |all, track|
            all.merge("track/#{track.number}/outputs" => lanes(track, start_of(track, first)), "track/#{track.number}/shares" => tracks.size > 1 ? name : "")
          end
        end

        # The left of a stereo track is on an odd return.
        def in_order(tracks, first)
          free = first
          tracks.to_h do |track|
            start = start_of(track, free)
            free = start + track.width
            ["track/#{track.number}/outputs", lanes(track, start)]
          end
        end

        def start_of(track, lane) = track.stereo && lane.even? ? lane + 1 : lane
        def lanes(track, start) = (start...(start + track.width)).to_a
      end
    end
  end
end
