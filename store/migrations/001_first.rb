# frozen_string_literal: true

Sequel.migration do
  change do
    create_table :shows do
      primary_key :id
      String :profile, null: false
      jsonb :about, null: false
      Integer :version, null: false, default: 1
      Time :created_at, null: false
    end

    # One row a setting that was ever set; the others have their blank value.
    create_table :settings do
      foreign_key :show_id, :shows, null: false, on_delete: :cascade
      String :path, null: false
      jsonb :value, null: false
      primary_key %i[show_id path]
    end

    # Every edit: who, when, what it changed from what to what. reverts names the entry that an undo or redo turns round.
    create_table :journal do
      primary_key :id
      foreign_key :show_id, :shows, null: false, on_delete: :cascade
      Integer :version, null: false
      String :kind, null: false
      String :label, null: false
      String :who, null: false
      Time :at, null: false
      Integer :reverts
      jsonb :changes, null: false
      index %i[show_id version], unique: true
      check { kind =~ %w[edit undo redo] }
    end

    create_table :takes do
      uuid :id, primary_key: true
      Integer :number, null: false
      String :folder, null: false
      jsonb :manifest, null: false
      Time :seen_at, null: false
    end
  end
end
