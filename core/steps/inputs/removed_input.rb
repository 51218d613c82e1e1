# frozen_string_literal: true

module Loomshuttle
  module Steps
    # Clears everything of a source that is no longer on the list: name, notes, socket, and the path to the recorder and back. A locked channel
    # keeps its patch, and so do take sources of others in its block.
    module RemovedInput
      WORDS = %i[name short mic stand notes spot].freeze
      TRACK = { "inputs" => [], "outputs" => [], "armed" => false, "name" => "" }.freeze
      private_constant :WORDS, :TRACK

      # @param show [Settings::Show]   @param channel [Settings::Channel]
      # @return [Hash{String=>Object}] settings that differ from the present ones
      def self.settings(show, channel)
        at = "channel/#{channel.number}"
        words = WORDS.to_h { |field| ["#{at}/#{field}", Settings.blank("#{at}/#{field}", show.profile)] }
        words.merge(channel.fixed ? {} : patch(show, channel, at)).reject { |path, value| show.get(path) == value }
      end

      class << self
        private

        # Of a stereo track that takes something else as well nothing is emptied.
        def patch(show, channel, at)
          lanes = show.sends.values.select { |send| show.channel_at(send.source) == channel }.map(&:lane)
          tracks = show.tracks.values.select { |track| track.inputs.any? && (track.inputs - lanes).empty? }
          emptied = { "#{at}/stage" => nil, "#{at}/paired" => false, **lanes.to_h { |lane| ["send/#{lane}/source", nil] } }
          emptied["#{at}/take"] = nil if show.profile.take_block == 1
          tracks.reduce(emptied) { |all, track| all.merge(TRACK.transform_keys { |field| "track/#{track.number}/#{field}" }) }
        end
      end
    end
  end
end
