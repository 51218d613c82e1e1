# frozen_string_literal: true

module Loomshuttle
  module Steps
    # Creates tracks for a range of channels in one step: card sends, track inputs and outputs, and the returns to the channels.
    module TracksFromChannels
      # @param show [Settings::Show]
      # @param first [Integer] channel  @param count [Integer] channels
      # @param track [Integer] first track  @param lane [Integer] first card lane, for both sends and returns
      # @param stereo [Boolean] whether two neighbouring channels become one stereo track
      # @return [Settings::Edit] tracks inherit names and dyes
      # @raise [Invalid] if channels, tracks or lanes run out
      def self.edit(show, first:, count:, track: first, lane: first, stereo: false)
        bases = bases(show, first, count)
        tracks = stereo ? (bases.size / 2.0).ceil : bases.size
        inside("channels", first, count, show.channels.size)
        inside("card lanes", lane, bases.size, [show.profile.sends, show.profile.returns].min)
        inside("tracks", track, tracks, show.tracks.size)
        raise Invalid.new("Stereo tracks need an even number of channel lanes and an odd first lane.", where: "stereo") if stereo && (bases.size.odd? || lane.even?)

        settings = lanes(show, bases, lane)
        (stereo ? 2 : 1).then { |width| settings.merge!(track_settings(bases.size, track, lane, width)) }
        Settings::Edit.set("Tracks #{track} to #{track + tracks - 1} from channels #{first} to #{first + count - 1}", Completed.settings(show, settings))
      end

      class << self
        private

        def bases(show, first, count)
          inside("channels", first, count, show.channels.size)
          (first...(first + count)).flat_map { |number| show.profile.channel_points(number) }
        end

        def inside(what, first, count, known)
          return if first >= 1 && count >= 1 && first + count - 1 <= known

          raise Invalid.new("#{count} #{what} from #{first} leave the device: it has #{known}.", where: what)
        end

        # A channel that hears the card is taken at channel in. On take each channel hears its own track.
        def lanes(show, bases, lane)
          bases.each.with_index(lane).with_object({}) do |(base, at), settings|
            channel = show.channel_at(base)
            settings["send/#{at}/source"] = base.name
            settings["send/#{at}/tap"] = channel.card_fed? ? "channel-in" : nil
            next if base.right? || (base.side && at.even?)

            settings["channel/#{channel.number}/take"] = Rig::Point.card_return(at).name unless channel.card_fed?
          end
        end

        def track_settings(lanes, first, lane, width)
          (0...(lanes / width)).each_with_object({}) do |nth, settings|
            taken = ((lane + (nth * width))...(lane + ((nth + 1) * width))).to_a
            { "stereo" => width == 2, "inputs" => taken, "outputs" => taken, "armed" => true, "name" => "", "colour" => nil }
              .each { |field, value| settings["track/#{first + nth}/#{field}"] = value }
          end
        end
      end
    end
  end
end
