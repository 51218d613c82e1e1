# frozen_string_literal: true

module Loomshuttle
  module Checks
    # Findings that somebody has accepted, each with a reason.
    module Acceptance
      WORDS = Shape.text(most: 200)
      # Options of each kind of edit.
      OPTIONS = { "accept" => Shape.record({ "finding" => WORDS, "reason" => WORDS }), "reopen" => Shape.record({ "finding" => WORDS }) }.freeze

      # @param show [Settings::Show]
      # @param kind ["accept", "reopen"]   @param options [Hash{String=>Object}]
      # @param heard [Array<Finding>] about who hears what (`heard`), which depend on more than the show
      # @return [Settings::Edit]
      # @raise [Invalid] if there is no such finding, or no reason is given
      def self.edit(show, kind, options, heard: [])
        given = OPTIONS.fetch(kind).check(options, "options")
        accepted = show.setup.accepted
        return Settings::Edit.set("Reopen a finding", "setup/accepted" => accepted.except(given["finding"])) if kind == "reopen"

        finding = (Checks.run(Context.of(show)) + heard).find { |one| one.id == given["finding"] } or
          raise Invalid.new("There is no finding #{given['finding']} any more.", where: "finding")
        Settings::Edit.set("Accept: #{finding.sentence}", "setup/accepted" => accepted.merge(finding.id => given["reason"]))
      end
    end
  end
end
