# frozen_string_literal: true

module Loomshuttle
  module Checks
    # A role of songs without an output. A click may be unassigned on purpose.
    module RoleWithoutOutput
      def self.findings(context)
        show = context.show
        show.roles.values.select { |role| role.outputs.empty? && %w[parts click].include?(role.kind) }.map do |role|
          Finding.new(id: "role-without-output/#{role.number}", check: "role-without-output", severity: role.kind == "parts" ? Finding::BLOCKS : Finding::LOOK,
                      sentence: "#{role.title} has no playback output: nobody hears it.", path: [], at: [], fix: fix(show, role))
        end
      end

      # Uses the outputs of the other parts, or the first unused outputs.
      def self.fix(show, role)
        same = show.roles.values.find { |one| one.kind == "parts" && !one.outputs.empty? } if role.kind == "parts"
        free = (1..Settings::PlaybackKinds::OUTPUTS).find { |output| show.playback_goes_to(output) && show.roles_on(output).empty? }
        outputs = same&.outputs || [free].compact
        Settings::Edit.set("Play #{role.title} to output#{'s' if outputs.size > 1} #{outputs.join(' and ')}", "role/#{role.number}/outputs" => outputs) unless outputs.empty?
      end
      private_class_method :fix
    end
  end
end
