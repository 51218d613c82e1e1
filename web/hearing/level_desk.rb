# frozen_string_literal: true

module Loomshuttle
  module Web
    # Saves levels of the desk as snapshots, and sets levels only when somebody explicitly asks for it.
    class LevelDesk
      # @param control [Control]   @param sheets [Store::LevelSheets]   @param sync [Desk::Sync]
      def initialize(control, sheets:, sync:)
        @control, @sheets, @sync = control, sheets, sync
      end

      # @return [Array<Hash>] saved level sheets of the open show, newest first
      def list = @sheets.list(@control.seen.id)

      # Saves the desk's present levels.
      # @return [Integer] id of the sheet
      # @raise [Invalid] if the desk cannot be read
      def keep(name, who)
        raise Invalid.new("A snapshot needs a name.", where: "name") if name.strip.empty?

        seen = @control.who_hears.now
        raise Invalid.new(away || "The desk cannot be read.", where: "desk") unless seen.from == "desk"

        # Of the show that was looked at, whatever is open by now.
        @sheets.keep(seen.show_id, name: name.strip, desk: seen.survey.show.rig.desk, who: who, values: seen.survey.values).tap { @control.who_hears.forget }
      end

      def delete(id)
        @sheets.delete(@control.seen.id, id)
        @control.who_hears.forget
      end

      # Computes what a press would change (schema PressPreview), without setting anything.
      # @param values [Hash{String=>Object}] names of Signal::MixedLevels
      # @raise [Invalid]
      def preview(values)
        survey = @control.who_hears.now.survey
        Hearing::Press.check(survey.show.profile, values)
        later = survey.turned(survey.values.merge(values))
        now, then_ = [survey, later].map { |one| Checks.heard(one).to_h { |finding| [finding.id, finding.sentence] } }
        { values: values.map { |name, value| told(survey, name, value) }, heard: Hearing::Difference.between(survey, later).map(&:to_h),
          findings_new: then_.except(*now.keys).values, findings_gone: now.except(*then_.keys).values }
      end

      # Sets levels at the desk and reads each back.
      # @return [Hash] :problems, sentences about what was not set
      # @raise [Invalid]
      def press(values)
        Hearing::Press.check(@control.seen.show.profile, values)
        raise Invalid.new(away, where: "desk") if away

        wanted = values.to_h { |name, value| [Desk::MixLevels.address(name), Desk::MixLevels.to_desk(value)] }
        problems = @control.desk.set_all(wanted).values
        @control.who_hears.touch
        { problems: problems }
      end

      private

      def away = @sync.away(@control.seen.show)

      def told(survey, name, value)
        { name: name, words: Hearing::LevelNames.words(survey.show, name), from: Hearing::LevelNames.told(name, survey.values[name]),
          to: Hearing::LevelNames.told(name, value) }
      end
    end
  end
end
