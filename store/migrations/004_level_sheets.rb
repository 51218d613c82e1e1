# frozen_string_literal: true

Sequel.migration do
  change do
    # What the desk was mixed to, kept by name: Signal::MixedLevels' names => values.
    create_table :level_sheets do
      primary_key :id
      foreign_key :show_id, :shows, null: false, on_delete: :cascade
      String :name, null: false
      String :desk, null: false
      String :who, null: false
      Time :at, null: false
      column :values, :jsonb, null: false
      index :show_id
    end
  end
end
