# frozen_string_literal: true

module Loomshuttle
  module Songs
    # One pass of a section: its samples from and to; nth: of how many passes.
    Pass = Value.define(:section, :from, :to, :nth, :of) do
      # All passes of a song with tonight's skips and repeats.
      # @param song [Song]   @param tonight [Tonight]
      # @return [Array<Pass>] in order
      # @raise [Invalid] if every section is skipped
      def self.all(song, tonight = Tonight.plain)
        passes = song.parts.reject { |section| tonight.skips.include?(section.key) }.flat_map do |section|
          times = tonight.repeats.fetch(section.key, 1)
          (1..times).map { |nth| new(section: section, from: song.begins(section), to: song.ends(section), nth: nth, of: times) }
        end
        raise Invalid.new("Nothing is left of #{song.name}: every section is skipped.", where: "skips") if passes.empty?

        passes.freeze
      end

      def frames = to - from
    end
  end
end
