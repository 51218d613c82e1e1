# frozen_string_literal: true

module Loomshuttle
  module Checks
    # The free disk space must last for the whole show.
    module DiskTime
      def self.findings(context)
        show = context.show
        lanes = show.tracks.values.select(&:armed).sum { |track| track.inputs.size }
        return [] if context.free_bytes.nil? || lanes.zero?

        seconds = Rig::DiskBudget.seconds(free_bytes: context.free_bytes, lanes: lanes, rate: show.rate, bits: show.setup.bits)
        return [] if seconds >= show.setup.length_minutes * 60

        [Finding.new(id: "disk-time", check: "disk-time", severity: Finding::BLOCKS,
                     sentence: "The disk holds #{minutes(seconds)} with #{lanes} lanes armed; the show lasts #{minutes(show.setup.length_minutes * 60)}. " \
                               "Free disk space or arm fewer tracks.",
                     path: [], at: [], fix: nil)]
      end

      def self.minutes(seconds) = seconds < 3600 ? "#{(seconds / 60).floor} min" : "#{(seconds / 3600).floor} h #{((seconds % 3600) / 60).floor} min"
      private_class_method :minutes
    end
  end
end
