# frozen_string_literal: true

Sequel.migration do
  change do
    # What people have ticked off: sources heard, sockets plugged.
    create_table :ticks do
      foreign_key :show_id, :shows, null: false, on_delete: :cascade
      String :kind, null: false
      String :subject, null: false
      String :who, null: false
      Time :at, null: false
      primary_key %i[show_id kind subject]
    end
  end
end
