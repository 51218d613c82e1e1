# frozen_string_literal: true

require "json"
require "sequel"

module Loomshuttle
  module Store
    # Loads and saves shows: settings, version, and the journal of every edit. Each edit is one transaction.
    class Shows
      # A show with the version it has.
      Loaded = Value.define(:id, :version, :show)
      # Entries that are read for an edit that was made against an older version; older ones are refused.
      LATELY = 100
      private_constant :LATELY

      # @param database [Sequel::Database]
      # @param shipped [Rig::Catalog] shipped profiles; those of users come from the database
      def initialize(database, shipped)
        @db = database
        @profiles = Profiles.new(database, shipped)
        @reading = Mutex.new # held while the journal is read on
      end

      # @return [Profiles]
      attr_reader :profiles

      # @return [Boolean] whether the database answers
      def answers?
        @db.get(1) == 1
      rescue Sequel::Error
        false
      end

      # @return [Integer, nil] id of the open show
      def open_id = @db[:shows].where(open: true).get(:id)

      # @return [Array<Hash>] id, version, open, about and created_at of all shows, newest first
      def list
        @db[:shows].reverse(:id).select(:id, :version, :open, :about, :created_at).all.map { |row| row.merge(about: symbols(row[:about])) }
      end

      # @param song [String] id
      # @return [Array<String>] names of the shows that have the song in their running order
      def that_play(song)
        playing = @db[:settings].where(Sequel.like(:path, "setlist/%/song")).where(Sequel.lit("value = ?::jsonb", JSON.generate(song))).select(:show_id)
        @db[:shows].where(id: playing).select_map(:about).map { |about| symbols(about)[:name] }
      end

      # Opens a show and closes the one that was open.
      # @raise [Invalid] if there is no such show
      def open(id)
        @db.transaction do
          @db[:shows].where(open: true).update(open: false)
          raise Invalid.new("There is no show #{id}.", where: "show") unless @db[:shows].where(id: id).update(open: true) == 1
        end
      end

      # @param about [Hash] :name, :act, :place, :date
      # @param settings [Hash{String=>Object}] "rig/desk" among them
      # @return [Integer] the new show's id; the very first show is opened
      # @raise [Invalid] if a setting does not fit the rig; nothing is stored then
      def create(about, settings)
        show = Settings::Show.load(@profiles.catalog, about, settings)
        @db.transaction do
          id = @db[:shows].insert(about: Sequel.pg_jsonb(about), created_at: Time.now, open: open_id.nil?)
          saving(id, show.set_settings).each { |sql| @db.run(sql) }
          id
        end
      end

      # @raise [Invalid] if the show is open or does not exist
      def delete(id)
        raise Invalid.new("The open show cannot be deleted; open another one first.", where: "show") if id == open_id

        @db[:shows].where(id: id).delete.positive? or raise Invalid.new("There is no show #{id}.", where: "show")
      end

      # @param about [Hash] :name, :act, :place, :date
      def rename(id, about) = @db[:shows].where(id: id).update(about: Sequel.pg_jsonb(about))

      # @param known [Loaded, nil] returned without reading if it is still the newest version
      # @return [Loaded]
      # @raise [Invalid] if there is no such show
      def load(id, known: nil)
        return known if known && known.id == id && known.version == version(id)

        @db.transaction(isolation: :repeatable) { read(id) }
      end

      # @return [Integer, nil] the newest version; nil if there is no such show
      def version(id) = @db[:shows].where(id: id).get(:version)

      # Applies an edit and saves it with its journal entry. An edit made against an older version is applied to the
      # newest one if nothing that it reads or sets has changed since.
      # @param version [Integer, nil] the version it was made against; nil for the newest
      # @param who [String] name   @param person [String, nil] whose undo stack it belongs to, if not `who`
      # @param known [Loaded, nil] a loaded show; used if it is the newest version
      # @param check [Proc] called with the show before and the changes; if it raises, nothing is saved
      # @yieldparam show [Settings::Show] the newest version, to compute the edit from (instead of `edit`)
      # @return [Array(Loaded, Array<Settings::Change>)] the list is empty and no journal entry is made if nothing changes; but one that reverts
      #   another always makes an entry, so that earlier ones can be reached
      # @raise [Stale] @raise [Invalid]
      def apply(id, version:, who:, person: nil, edit: nil, kind: "edit", reverts: nil, known: nil, check: nil)
        entry = nil
        done = @db.transaction do
          loaded = newest(id, known)
          made = edit || yield(loaded.show)
          show, changes = made.apply(loaded.show)
          rebase(loaded, version, changes) { |older| edit || yield(older) } unless [nil, loaded.version].include?(version)
          next [loaded, []] if changes.empty? && reverts.nil?

          check&.call(loaded.show, changes)
          later = loaded.with(version: loaded.version + 1, show: show)
          entry = { version: later.version, show_id: id, kind: Flips.kind(kind, changes), label: made.label, who: who, person: person, reverts: reverts }
          entry[:id] = save_version(later, changes, entry)
          [later, changes]
        end
        know(entry) if entry
        done
      rescue Invalid
        raise if version.nil? || version == version(id)

        raise Stale.new(version(id), lately(id, version)) # what it was made against would have let it through, or said the same
      end

      # The show at an earlier version, found by reverting the journal entry by entry.
      # @param version [Integer]
      # @return [Settings::Show]
      # @raise [Invalid] if the journal does not go back that far
      def at_version(id, version)
        loaded = load(id)
        raise Invalid.new("There is no version #{version}; the show is at #{loaded.version}.", where: "version") unless version.between?(1, loaded.version)

        entries(id, after: version).reverse.reduce(loaded.show) { |show, entry| Settings::Edit.inverse("", Flips.without(entry[:changes])).apply(show).first }
      end

      # Reverts a person's newest edit (undo) or newest undo (redo); never flips between stage and take.
      # @param kind ["undo", "redo"]   @param person [String, nil] as in apply
      # @return [Array(Loaded, Array<Settings::Change>)] as apply
      # @raise [Invalid] if there is nothing to revert, or somebody else has changed the same settings since
      def revert(id, who:, kind:, person: nil, known: nil, check: nil)
        turned = turnable(id, person || who)[kind] or raise Invalid.new("You have nothing to #{kind}.", where: kind)
        entry = entry(id, turned[:version])
        changes = Flips.without(entry[:changes])
        edit = Settings::Edit.inverse("#{kind.capitalize}: #{plain_label(entry)}", changes)
        apply(id, version: nil, who: who, person: person, kind: kind, reverts: entry[:id], known: known, check: check) do |show|
          overtaken(id, entry, show, changes, kind)
          edit
        end
      end

      # @param after [Integer] entries of later versions only
      # @return [Array<Hash>] oldest first: id, version, kind, label, who, at, reverts, changes (Settings::Change)
      def entries(id, after: 0) = @db[:journal].where(show_id: id).where { version > after }.order(:version).map { |row| with_changes(row) }

      # A page of the journal, newest first.
      # @param before [Integer, nil] entries of earlier versions only
      # @return [Array<Hash>] as entries
      def page(id, before: nil, size: 40)
        rows = @db[:journal].where(show_id: id).reverse(:version).limit(size)
        rows = rows.where { version < before } if before
        rows.map { |row| with_changes(row) }
      end

      # @return [Hash] the entry that made a version
      # @raise [Invalid] if there is none
      def entry(id, version)
        row = @db[:journal].first(show_id: id, version: version) or raise Invalid.new("No edit made version #{version}.", where: "version")
        with_changes(row)
      end

      # @param person [String]   @param version [Integer, nil] version that must be included; nil for the newest
      # @return [Hash] labels of what undo and redo would do for a person; nil if there is nothing
      def undoable(id, person, version: nil)
        turnable(id, person, version).to_h { |kind, entry| [kind.to_sym, entry && plain_label(entry)] }
      end

      private

      # @return [Loaded] the newest version; nobody else changes it until the transaction ends
      def newest(id, known)
        version = @db[:shows].where(id: id).for_update.get(:version) or raise Invalid.new("There is no show #{id}.", where: "show")
        known&.id == id && known.version == version ? known : read(id)
      end

      # In one round trip: after each one the thread would have to queue for Ruby's lock.
      # @return [Integer] id of the entry in the journal
      def save_version(later, changes, entry)
        settings = changes.any? { |change| change.path == "rig/desk" } ? replacing(later.id, later.show) : keeping(later.id, later.show, changes)
        version = @db[:shows].where(id: later.id).update_sql(version: later.version)
        journal = @db[:journal].returning(:id).insert_sql(**entry, at: Time.now, changes: Sequel.pg_jsonb(changes.map(&:to_h)))
        @db.fetch([*settings, version, journal].join(";\n")).map(:id).first
      end

      # Whether an edit that was made against an older version does the same to the newest one.
      # @param changes [Array<Settings::Change>] that it makes there
      # @yieldparam show [Settings::Show] the older one
      # @raise [Stale] when it does not, or cannot be told
      def rebase(loaded, version, changes)
        later = lately(loaded.id, version)
        raise Stale.new(loaded.version, later) if version > loaded.version || later.size < loaded.version - version

        older = later.reverse.reduce(loaded.show) { |show, entry| Settings::Edit.inverse("", entry[:changes]).apply(show).first }
        meant = yield(older).apply(older).last
        raise Stale.new(loaded.version, later.select { |entry| touches?(entry, meant + changes) }.then { |found| found.empty? ? later : found }) unless meant == changes
      end

      def touches?(entry, changes) = entry[:changes].map(&:path).intersect?(changes.map(&:path))

      # @return [Array<Hash>] entries behind a version, oldest first; the newest ones
      def lately(id, version) = @db[:journal].where(show_id: id).where(Sequel[:version] > version).reverse(:version).limit(LATELY).map { |row| with_changes(row) }.reverse

      # @raise [Invalid] when what an entry set is not as it left it
      def overtaken(id, entry, show, changes, kind)
        gone = changes.find { |change| show.fetch(change.path) { change.to } != change.to } or return
        later = @db[:journal].where(show_id: id).where(Sequel[:version] > entry[:version]).where(Sequel.lit("changes @> ?::jsonb",
                                                                                                            JSON.generate([{ path: gone.path }]))).reverse(:version).first
        raise Invalid.new("#{later ? later[:who] : 'Somebody'} has changed #{Settings::Telling.setting(show, gone.path)} since; nothing was changed by #{kind}.", where: kind)
      end

      # @return [Hash{String=>Hash}] the entries that "undo" and "redo" would turn round for a person, or nil
      def turnable(id, person, version = nil)
        @reading.synchronize { stack(id, version).then { |stack| %w[undo redo].to_h { |kind| [kind, stack.next(kind, person)] } } }
      end

      # Adds a new entry to the undo stack without reading it back, if no entry is missing in between.
      def know(entry)
        @reading.synchronize { @stack.read([entry]) if @stack&.show == entry[:show_id] && @stack.version == entry[:version] - 1 }
      end

      # The journal only grows, so it is read on from where it was read last; of the show that was asked for last.
      def stack(id, version)
        @stack = UndoStack.new(id) unless @stack&.show == id
        return @stack if version && @stack.version >= version

        @stack.read(@db[:journal].where(show_id: id).where(Sequel[:version] > @stack.version).order(:version).select(:id, :version, :kind, :label, :who, :person, :reverts).all)
      end

      def with_changes(row) = row.merge(changes: row[:changes].map { |change| Settings::Change.new(path: change["path"], from: plain(change["from"]), to: plain(change["to"])) })

      def read(id)
        row = @db[:shows].first(id: id) or raise Invalid.new("There is no show #{id}.", where: "show")
        settings = @db[:settings].where(show_id: id).select_hash(:path, :value).transform_values { |value| plain(value) }
        show = Settings::Show.load(@profiles.catalog, symbols(row[:about]), settings)
        Loaded.new(id: id, version: row[:version], show: show)
      end

      # Lists and objects come from the database in a wrapper.
      def plain(value) = Json.plain(value)

      def symbols(about) = about.to_h.transform_keys(&:to_sym)

      # Another desk has other settings; what the old one alone had is not kept.
      def replacing(id, show) = [@db[:settings].where(show_id: id).delete_sql, *saving(id, show.set_settings)]

      # Settings of items that have left go with them.
      def keeping(id, show, changes)
        stay, gone = changes.partition { |change| show.setting?(change.path) }
        left = gone.empty? ? [] : [@db[:settings].where(show_id: id, path: gone.map(&:path)).delete_sql]
        left + saving(id, stay.to_h { |change| [change.path, change.to] })
      end

      # @return [Array<String>] SQL that keeps settings
      def saving(id, settings)
        return [] if settings.empty?

        rows = settings.map { |path, value| { show_id: id, path: path, value: Sequel.pg_jsonb_wrap(value) } }
        @db[:settings].insert_conflict(target: %i[show_id path], update: { value: Sequel[:excluded][:value] }).multi_insert_sql(%i[show_id path value], rows.map(&:values))
      end

      # What was edited, without whether it was undone or redone since.
      def plain_label(entry) = entry[:label].sub(/\A(Undo|Redo): /, "")
    end
  end
end
