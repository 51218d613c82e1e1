# frozen_string_literal: true

module Loomshuttle
  module Steps
    # Joins two neighbouring channels into a stereo pair with one stereo track, or splits them.
    module Pairs
      # @param number [Integer] the pair's odd channel, or its partner
      # @return [Settings::Edit]
      # @raise [Invalid] if the two are not neighbours that can be paired, or their tracks cannot become one
      def self.join(show, number)
        left, right = channels(show, number)
        settings = { "channel/#{left.number}/paired" => true }
        tracks = [left, right].map { |channel| mono_track(show, channel) }
        settings.merge!(one_track(*tracks, left, right)) if tracks.all?
        Settings::Edit.set("Join #{left.title} and #{right.title}", settings)
      end

      # @return [Settings::Edit]
      # @raise [Invalid] if the two are not a pair
      def self.split(show, number)
        left, right = channels(show, number)
        raise Invalid.new("#{left.title} and #{right.title} are not a stereo pair.", where: "channel/#{left.number}/paired") unless left.paired

        settings = { "channel/#{left.number}/paired" => false }
        track = stereo_track(show, left)
        free = track && show.tracks.values.find { |one| one.number > track.number && one.free? }
        settings.merge!(two_tracks(track, free)) if free
        Settings::Edit.set("Split #{left.title} and #{right.title}", settings)
      end

      class << self
        private

        def channels(show, number)
          left = number.odd? ? number : number - 1
          pair = [show.channels[left], show.channels[left + 1]]
          return pair if pair.all? && pair.all? { |channel| show.profile.strip(channel.number).width == 1 }

          raise Invalid.new("Channel #{number} has no mono neighbour to be paired with.", where: "channel/#{number}/paired")
        end

        def tracks_of(show, channel)
          lanes = show.sends.values.select { |send| send.source == channel.point }.map(&:lane)
          show.tracks.values.select { |track| track.inputs.intersect?(lanes) }
        end

        def mono_track(show, channel) = tracks_of(show, channel).reject(&:stereo).first
        def stereo_track(show, channel) = tracks_of(show, channel).find(&:stereo)

        def one_track(first, second, left, right)
          { "track/#{second.number}/inputs" => [], "track/#{second.number}/outputs" => [], "track/#{second.number}/armed" => false,
            "track/#{second.number}/name" => "", "track/#{first.number}/stereo" => true,
            "track/#{first.number}/inputs" => first.inputs + second.inputs,
            "track/#{first.number}/outputs" => first.outputs.empty? || second.outputs.empty? ? [] : first.outputs + second.outputs,
            "track/#{first.number}/name" => [left.name, right.name].include?(first.name) ? "" : first.name }
        end

        def two_tracks(track, free)
          { "track/#{track.number}/stereo" => false, "track/#{track.number}/inputs" => track.inputs.first(1), "track/#{track.number}/outputs" => track.outputs.first(1),
            "track/#{track.number}/name" => "", "track/#{free.number}/inputs" => track.inputs.drop(1), "track/#{free.number}/outputs" => track.outputs.drop(1),
            "track/#{free.number}/armed" => track.armed }
        end
      end
    end
  end
end
