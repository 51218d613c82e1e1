# frozen_string_literal: true

module Loomshuttle
  module Store
    # Loads and saves a show: its settings, its version, and the journal of every edit. One transaction an edit.
    class Shows
      # A show with the version it has.
      Loaded = Value.define(:id, :version, :show)

      # @param database [Sequel::Database]
      # @param profiles [Hash{String=>Rig::Profile}] by id
      def initialize(database, profiles)
        @db = database
        @profiles = profiles
      end

      # @return [Boolean] whether the database can be asked at all
      def answers?
        @db.get(1) == 1
      rescue Sequel::Error
        false
      end

      # @return [Integer, nil] id of the first show
      def first_id = @db[:shows].order(:id).get(:id)

      # @param about [Hash] name, act, place, date
      # @param settings [Hash{String=>Object}]
      # @return [Integer] the new show's id
      # @raise [Invalid] when a setting does not fit the profile; nothing is kept then
      def create(profile, about, settings)
        show = Patch::Show.load(@profiles.fetch(profile), about, settings)
        @db.transaction do
          id = @db[:shows].insert(profile: profile, about: Sequel.pg_jsonb(about), created_at: Time.now)
          blank = Patch::Show.blank(show.profile, about)
          set = show.settings.reject { |path, value| blank.get(path) == value }
          save(id, set)
          id
        end
      end

      # @return [Loaded]
      # @raise [Invalid] when there is no such show
      def load(id) = @db.transaction(isolation: :repeatable) { read(id) }

      # Applies an edit to a version and saves it, with its journal entry.
      # @param version [Integer, nil] the version it was made against; nil: whatever is newest
      # @param who [String]
      # @return [Array(Loaded, Array<Patch::Change>)] the list is empty when the edit changes nothing, and no entry is made
      # @raise [Stale] @raise [Invalid]
      def apply(id, version:, who:, edit:, kind: "edit", reverts: nil)
        @db.transaction do
          check_version(id, version)
          loaded = read(id)
          show, changes = edit.apply(loaded.show)
          next [loaded, []] if changes.empty?

          save(id, changes.to_h { |change| [change.path, change.to] })
          next_version = loaded.version + 1
          @db[:shows].where(id: id).update(version: next_version)
          journal(id, next_version, kind, edit.label, who, changes, reverts)
          [loaded.with(version: next_version, show: show), changes]
        end
      end

      # Turns the newest edit that stands round, or the newest undo.
      # @param kind ["undo", "redo"]
      # @return as apply
      # @raise [Invalid] when there is nothing to turn round
      def revert(id, version:, who:, kind:)
        entry = UndoStack.new(entries(id)).next(kind) or raise Invalid.new("There is nothing to #{kind}.", where: kind)
        changes = entry[:changes].map { |change| Patch::Change.new(**change) }
        edit = Patch::Edit.inverse("#{kind.capitalize}: #{plain_label(entry)}", changes)
        apply(id, version: version, who: who, edit: edit, kind: kind, reverts: entry[:id])
      end

      # @param after [Integer] entries of later versions only
      # @return [Array<Hash>] oldest first: id, version, kind, label, who, at, reverts, changes
      def entries(id, after: 0)
        @db[:journal].where(show_id: id).where { version > after }.order(:version).all.map do |row|
          row.merge(changes: row[:changes].map { |change| change.to_h.transform_keys(&:to_sym) })
        end
      end

      # @return [Hash] labels of what undo and redo would do; nil where nothing is
      def undoable(id)
        stack = UndoStack.new(entries(id))
        %i[undo redo].to_h { |kind| [kind, stack.next(kind.to_s)&.then { |entry| plain_label(entry) }] }
      end

      private

      def check_version(id, version)
        newest = @db[:shows].where(id: id).for_update.get(:version)
        raise Invalid.new("There is no show #{id}.", where: "show") unless newest
        return if version.nil? || version == newest

        raise Stale.new(newest, entries(id, after: version))
      end

      def read(id)
        row = @db[:shows].first(id: id) or raise Invalid.new("There is no show #{id}.", where: "show")
        settings = @db[:settings].where(show_id: id).select_hash(:path, :value).transform_values { |value| plain(value) }
        show = Patch::Show.load(@profiles.fetch(row[:profile]), row[:about].to_h.transform_keys(&:to_sym), settings)
        Loaded.new(id: id, version: row[:version], show: show)
      end

      # Lists come from the database in a wrapper.
      def plain(value) = value.respond_to?(:to_ary) ? value.to_ary : value

      def save(id, settings)
        rows = settings.map { |path, value| { show_id: id, path: path, value: Sequel.pg_jsonb_wrap(value) } }
        @db[:settings].insert_conflict(target: %i[show_id path], update: { value: Sequel[:excluded][:value] }).multi_insert(rows)
      end

      # What was edited, without whether it was undone or redone since.
      def plain_label(entry) = entry[:label].sub(/\A(Undo|Redo): /, "")

      def journal(id, version, kind, label, who, changes, reverts)
        @db[:journal].insert(show_id: id, version: version, kind: kind, label: label, who: who, at: Time.now, reverts: reverts,
                             changes: Sequel.pg_jsonb(changes.map(&:to_h)))
      end
    end
  end
end
