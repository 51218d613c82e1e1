# frozen_string_literal: true

module Loomshuttle
  module Checks
    # A click, guide, pilot or timecode that shares an output with music: whoever hears one hears both.
    module CueSharesOutput
      def self.findings(context)
        show = context.show
        show.roles.values.reject { |role| role.kind == "parts" }.flat_map { |role| role.outputs.map { |output| [role, output] } }.filter_map do |role, output|
          others = show.roles_on(output).select { |one| shares?(role, one) }
          next if others.empty?

          Finding.new(id: "cue-shares-output/#{role.number}/#{output}", check: "cue-shares-output", severity: Finding::BLOCKS,
                      sentence: "#{role.title} and #{others.map(&:title).join(', ')} share output #{output}: whoever hears one hears both.",
                      path: [Rig::Point.playback(output)], at: [], fix: fix(show, role))
        end
      end

      class << self
        private

        # Click and guide may share: both are for the band.
        def shares?(role, other)
          return false if other.number == role.number

          other.kind == "parts" || ![role.kind, other.kind].all? { |kind| Songs::Role::CUES.include?(kind) }
        end

        def fix(show, role)
          free = (1..Settings::PlaybackKinds::OUTPUTS).find { |output| show.playback_goes_to(output) && show.roles_on(output).empty? } or return
          Settings::Edit.set("Play #{role.title} to output #{free}", "role/#{role.number}/outputs" => [free])
        end
      end
    end
  end
end
