# frozen_string_literal: true

module Loomshuttle
  module Web
    # Steps: edits that the core computes (Steps::Propose), previewed first and then applied. Recalling a preset or restoring a version is a step,
    # too.
    class ComputedEdits
      # Most changes for listeners in a preview.
      SHOWN = 40

      # @param control [Control]
      def initialize(control)
        @control = control
      end

      # @param show [Settings::Show]
      # @param kind [String]  @param options [Hash{String=>Object}]
      # @return [Steps::Propose::Proposal]
      # @raise [Invalid]
      def proposal(show, kind, options)
        case kind
        when "preset" then preset(show, options)
        when "version" then whole(show, @control.shows.at_version(@control.seen.id, options.fetch("version")), "Restore version #{options['version']}")
        when "show" then like(show, options.fetch("show"))
        when "accept", "reopen" then alone(Checks::Acceptance.edit(show, kind, options, heard: @control.who_hears.findings))
        else Steps::Propose.for(show, kind, options)
        end
      rescue KeyError => e
        raise Invalid.new("A step \"#{kind}\" needs #{e.key}.", where: e.key.to_s)
      end

      # Computes what a step would change (schema Preview), without changing anything.
      def preview(kind, options)
        derived = @control.current
        proposal = proposal(derived.show, kind, options)
        after, changes = proposal.edit.apply(derived.show)
        { version: derived.version, label: proposal.edit.label, settings: proposal.edit.settings, changes: told(derived.show, after, changes),
          parts: proposal.parts, uncaptured: LISTS.include?(kind) ? left_out(after) : [], problems: proposal.problems.map(&:to_h),
          notes: Settings::Blocks.newly_single(derived.show, after), follow: Steps::ReturnFollowers.of(derived.show, after)&.to_h }.merge(consequences(derived, after))
      end

      # Steps that patch sources to tracks; their previews list what they leave out.
      LISTS = %w[auto_patch input_list].freeze
      private_constant :LISTS

      # Applies a step at once.
      # @return [Hash] as Control#edit
      def take(kind, options, version:, who:, person: nil, show: nil, wait: false)
        @control.edit(version: version, who: who, person: person, show: show, wait: wait) { |newest| proposal(newest, kind, options).edit }
      end

      private

      def preset(show, options)
        kept = @control.library.presets.find(options.fetch("preset"))
        parts = options["parts"] ? Settings::PresetParts.only(kept[:settings], options["parts"]) : kept[:settings]
        Steps::Propose.for(show, "recall", "settings" => parts, "label" => "Recall preset #{kept[:name]}")
      end

      # Everything as in another show of this computer.
      def like(show, id) = whole(show, @control.shows.load(id).show, "Take over show #{id}")

      def whole(show, other, label)
        alone(Settings::Edit.set(label, Settings::Compare.way(show, other)))
      end

      def left_out(after) = Signal::Uncaptured.of(after).map { |left| "#{left.title}: #{left.why}" }

      def alone(edit) = Steps::Propose::Proposal.new(edit: edit, parts: [], problems: [])

      # Names as they are where a setting is changed, and as they will be where it only then has one.
      def told(before, after, changes)
        changes.map { |change| Settings::Telling.change(change.from.nil? ? after : before, change.path, change.from, change.to).to_h }
      end

      # What else comes of it: strands that lose something, findings that come and go, and who hears something else.
      def consequences(derived, after)
        later = Derived.new(derived.loaded.with(show: after), before: derived)
        heard, found, found_then = @control.who_hears.after(later)
        now, then_ = waiting(derived, found), waiting(later, found_then)
        losses = Signal::Broken.between(derived.context, later.context) + Signal::Unreached.between(derived.context, later.context)
        { losses: losses.map(&:to_h), findings_new: then_.except(*now.keys).values,
          findings_gone: now.except(*then_.keys).values, heard: heard.first(SHOWN).map(&:to_h), heard_more: [heard.size - SHOWN, 0].max }
      end

      def waiting(derived, heard)
        (derived.findings + heard).reject { |finding| derived.show.setup.accepted.key?(finding.id) }.to_h { |finding| [finding.id, finding.sentence] }
      end
    end
  end
end
