# frozen_string_literal: true

module Loomshuttle
  module Web
    # The part of a show that the recorder needs.
    module RecorderConfig
      # @param show [Settings::Show]
      # @return [Hash] parameters of "configure" (Recorder::Requests)
      def self.of(show)
        tracks = show.tracks.values.select(&:used?).map do |track|
          { number: track.number, name: show.title_of(track), inputs: track.inputs, outputs: track.outputs, armed: track.armed }
        end
        { tracks: tracks, buffer: show.setup.buffer, own_mix: show.setup.own_mix, bits: show.setup.bits, mirror: show.setup.mirror.empty? ? nil : show.setup.mirror,
          project: show.about.fetch(:name, "") }
      end
    end
  end
end
