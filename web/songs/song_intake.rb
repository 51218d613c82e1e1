# frozen_string_literal: true

module Loomshuttle
  module Web
    # A preview of the song that a folder of stems would become, and the job that creates it.
    class SongIntake
      # @param control [Control]
      def initialize(control)
        @control = control
      end

      # @param look [Inspections::Look] a finished one
      # @return [Hash] schema SongPlan
      def plan(look)
        stems = found(look)
        folders = stems.flat_map(&:paths).map { |path| File.basename(File.dirname(path)) }.uniq
        { name: name(look, stems), bpm: Songs::Stems.bpm(stems.map(&:name) + folders), midi: midi(look)&.then { |path| File.basename(path) },
          stems: stems.map { |one| stem(one) }, problems: look.problems.reject { |problem| midi?(problem[:where]) } }
      end

      # @param look [Inspections::Look]   @param name [String]   @param choices [Array<Hash>] "files" (from the plan) and "role" of each chosen stem
      # @param bpm [Numeric, nil] tempo, if given by hand
      # @return [Hash] the job
      # @raise [Invalid]
      def bring_in(look, name:, choices:, bpm: nil, who: nil)
        known = found(look)
        stems = choices.map do |choice|
          one = known.find { |stem| stem.paths == choice["files"] && stem.paths.all? { |path| File.file?(path) } }
          raise Invalid.new("The files have changed; scan them again.", where: "stems") unless one

          { "name" => Text.readable(one.name, most: 80), "role" => choice["role"].strip, "lanes" => one.lanes, "wide" => false, "files" => one.paths }
        end
        @control.jobs.song(name: name, rate: @control.current.show.rate, stems: stems, midi: midi(look), bpm: bpm || plan(look)[:bpm], who: who)
      end

      private

      def found(look)
        raise Invalid.new("The folder is still being scanned.", where: "look") unless look.state == "done"

        Songs::Stems.of(look.items.flat_map(&:sounds))
      end

      # The folder's, where one was named; or the words that all names have.
      def name(look, stems)
        return File.basename(look.source["folder"]).delete_suffix(Deliveries::ZIP).tr("_", " ")[0, 80] if look.source["folder"]

        common = stems.map { |one| one.name.split(/[\s_-]+/) }.reduce { |one, other| one.take_while.with_index { |word, at| word.casecmp?(other[at].to_s) } }
        common.to_a.grep_v(/\A\d*(?:bpm)?\z/i).join(" ").then { |words| words.empty? ? "New song" : words[0, 80] }
      end

      def midi?(path) = Deliveries::MIDI.include?(File.extname(path.to_s).downcase)

      # The first that lies there.
      def midi(look)
        told = look.problems.find { |problem| midi?(problem[:where]) } or return
        path = File.join(@control.deliveries.folder_of(look.source), told[:where])
        path if File.file?(path) && !File.symlink?(path)
      rescue Invalid
        nil
      end

      def stem(one)
        { files: one.paths, names: one.paths.map { |path| Text.readable(File.basename(path)) }, role: one.role, kind: one.kind, lanes: one.lanes, notes: one.notes,
          known: @control.songs.roles.key?(one.role) || @control.seen.show.roles.values.any? { |role| role.name == one.role } }
      end
    end
  end
end
