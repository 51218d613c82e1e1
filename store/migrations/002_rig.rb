# frozen_string_literal: true

Sequel.migration do
  up do
    # The desk is a setting like any other now, so that changing it can be journaled and undone.
    run <<~SQL
      INSERT INTO settings (show_id, path, value) SELECT id, 'rig/desk', to_jsonb(profile) FROM shows
    SQL
    alter_table(:shows) do
      drop_column :profile
      # One show is open: the one that this computer captures and that the desk is compared with.
      add_column :open, TrueClass, null: false, default: false
    end
    run "UPDATE shows SET open = true WHERE id = (SELECT min(id) FROM shows)"
    run "CREATE UNIQUE INDEX shows_one_open ON shows (open) WHERE open"

    # Device profiles that users brought.
    create_table :profiles do
      String :id, primary_key: true
      jsonb :data, null: false
      Time :at, null: false
    end

    # Parts of a patch to recall: settings by path.
    create_table :presets do
      primary_key :id
      String :name, null: false, unique: true
      jsonb :parts, null: false
      jsonb :settings, null: false
      String :who, null: false
      Time :at, null: false
    end

    # What a desk was set to before a plan was sent to it: address => value.
    create_table :desk_copies do
      primary_key :id
      foreign_key :show_id, :shows, null: false, on_delete: :cascade
      String :desk, null: false
      String :label, null: false
      String :who, null: false
      Time :at, null: false
      jsonb :values, null: false
    end
  end
end
